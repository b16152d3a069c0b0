import type { Gray } from '../gray';
import { blockMatchingBytes } from './blockMatchingBytes';

/** A block of a picture, where it went since the one before, and whether it is not to be found there. */
export interface BlockMatch {
  x: number;
  y: number;
  vx: number;
  vy: number;
  lost: boolean;
}

/** What `assembly/blockMatching.ts` gives away. */
interface Exports {
  memory: WebAssembly.Memory;
  matchBlocks(...given: number[]): number;
  coarseShift(before: number, now: number, width: number, height: number): number;
}

const pageBytes = 65_536;
/** Rows of 12 are loaded as rows of 16. */
const behind = 16;
const mostBlocks = 16 * 9;
const numbersPerBlock = 5;
/** Below it lies what the compiler keeps for itself. */
const firstAddress = 1024;
const middle = 0x4000;

let compiled: WebAssembly.Module | null = null;
const module = () =>
  (compiled ??= new WebAssembly.Module(Uint8Array.from(atob(blockMatchingBytes), (letter) => letter.charCodeAt(0))));

/**
 * Block matching in WebAssembly with SIMD, eight times as fast as in plain TypeScript: two pyramids of one size lie in its
 * memory, each a picture and its halves down to an eighth.
 */
export class BlockMatcher {
  /** Two places for pictures; whoever uses them says which one is the old one. */
  readonly pyramids: readonly [Gray[], Gray[]];
  private readonly wasm: Exports;
  private readonly found: Float64Array;
  private readonly out: number;

  /** @param width of the pictures in pixels, at least 64 like `height` */
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.wasm = new WebAssembly.Instance(module()).exports as unknown as Exports;
    const sizes = [0, 1, 2, 3].map((level) => ({ width: width >> level, height: height >> level }));
    const pyramidBytes = sizes.reduce((sum, size) => sum + align(size.width * size.height + behind), 0);
    this.out = firstAddress + 2 * pyramidBytes;
    const needed = this.out + mostBlocks * numbersPerBlock * 8;
    const { memory } = this.wasm;
    memory.grow(Math.max(0, Math.ceil(needed / pageBytes) - memory.buffer.byteLength / pageBytes));
    const place = (start: number): Gray[] => {
      let at = start;
      return sizes.map((size) => {
        const data = new Uint8Array(memory.buffer, at, size.width * size.height);
        at += align(data.length + behind);
        return { ...size, data };
      });
    };
    this.pyramids = [place(firstAddress), place(firstAddress + pyramidBytes)];
    this.found = new Float64Array(memory.buffer, this.out, mostBlocks * numbersPerBlock);
  }

  /**
   * Blocks of `now` that have texture, 16 across and 9 down, and where they went since `before`; both are pyramids of this
   * matcher.
   * @param coarse where to begin, in eighths of the size
   */
  matchBlocks(before: readonly Gray[], now: readonly Gray[], coarse: { x: number; y: number }): BlockMatch[] {
    const count = this.wasm.matchBlocks(
      ...[before[0]!, before[1]!, before[2]!, now[0]!, now[1]!, now[2]!].map(({ data }) => data.byteOffset),
      this.width,
      this.height,
      coarse.x,
      coarse.y,
      this.out,
    );
    return Array.from({ length: count }, (_, index) => {
      const [x, y, vx, vy, lost] = this.found.subarray(index * numbersPerBlock);
      return { x: x!, y: y!, vx: vx!, vy: vy!, lost: lost === 1 };
    });
  }

  /** Whole-picture shift between two eighths, in their pixels; reaches half the width, as whip pans need. */
  coarseShift(before: Gray, now: Gray): { x: number; y: number } {
    const packed = this.wasm.coarseShift(before.data.byteOffset, now.data.byteOffset, now.width, now.height);
    return { x: (packed & 0xffff) - middle, y: (packed >>> 16) - middle };
  }
}

const align = (bytes: number) => (bytes + 15) & ~15;
