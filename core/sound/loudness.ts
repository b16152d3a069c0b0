import { percentile } from '#core/signal';

/**
 * Loudness after ITU-R BS.1770-4 and EBU R128 / Tech 3341: K-weighting, 400 ms momentary and 3 s short-term
 * windows, gated integration (absolute gate -70 LUFS, relative gate -10 LU).
 */
const headShelf = {
  b: [1.53512485958697, -2.69169618940638, 1.19839281085285],
  a: [-1.69065929318241, 0.73248077421585],
};
const highPass = { b: [1, -2, 1], a: [-1.99004745483398, 0.99007225036621] };

class Biquad {
  private x1 = 0;
  private x2 = 0;
  private y1 = 0;
  private y2 = 0;
  constructor(private readonly filter: typeof headShelf) {}
  next(x: number): number {
    const { a, b } = this.filter;
    const y = b[0]! * x + b[1]! * this.x1 + b[2]! * this.x2 - a[0]! * this.y1 - a[1]! * this.y2;
    this.x2 = this.x1;
    this.x1 = x;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}

const toLufs = (power: number) => (power > 0 ? -0.691 + 10 * Math.log10(power) : -Infinity);

/** Quietest value that traces carry, in LUFS; digital silence has no logarithm. */
export const loudnessFloor = -70;

/** Feed interleaved samples of any number of front channels at 48 kHz; all weights are 1. */
export class LoudnessMeter {
  static readonly sampleRate = 48000;
  /** Samples per 100 ms step. */
  private static readonly step = 4800;
  private readonly filters: [Biquad, Biquad][];
  private readonly steps: number[] = [];
  private sum = 0;
  private filled = 0;

  constructor(private readonly channels: number) {
    this.filters = Array.from({ length: channels }, () => [new Biquad(headShelf), new Biquad(highPass)]);
  }

  /** @param samples interleaved, -1 to 1; a whole number of frames. */
  push(samples: Float32Array): void {
    for (let at = 0; at + this.channels <= samples.length; at += this.channels) {
      for (let channel = 0; channel < this.channels; channel++) {
        const [first, second] = this.filters[channel]!;
        const value = second.next(first.next(samples[at + channel]!));
        this.sum += value * value;
      }
      if (++this.filled === LoudnessMeter.step) {
        this.steps.push(this.sum / LoudnessMeter.step);
        this.sum = 0;
        this.filled = 0;
      }
    }
  }

  /** Momentary loudness in LUFS every 100 ms: the window of 400 ms that ends with each step, shorter at the start. */
  momentary(): Float32Array {
    return this.windowed(4);
  }

  /** Short-term loudness (3 s) in LUFS every 100 ms. */
  shortTerm(): Float32Array {
    return this.windowed(30);
  }

  /** Integrated loudness in LUFS, or -Infinity when nothing passes the gates. */
  integrated(): number {
    const blocks: number[] = [];
    for (let end = 4; end <= this.steps.length; end++)
      blocks.push((this.steps[end - 1]! + this.steps[end - 2]! + this.steps[end - 3]! + this.steps[end - 4]!) / 4);
    const mean = (list: number[]) => list.reduce((sum, value) => sum + value, 0) / list.length;
    const loud = blocks.filter((power) => toLufs(power) > -70);
    if (loud.length === 0) return -Infinity;
    const gate = toLufs(mean(loud)) - 10;
    return toLufs(mean(loud.filter((power) => toLufs(power) > gate)));
  }

  /**
   * Loudness range in LU after EBU Tech 3342: from the 10th to the 95th percentile of the short-term loudness, without
   * what lies under -70 LUFS or 20 LU under the mean of the rest. 0 for less than three seconds.
   */
  range(): number {
    const powers: number[] = [];
    for (let end = 30; end <= this.steps.length; end++) {
      let sum = 0;
      for (let index = end - 30; index < end; index++) sum += this.steps[index]!;
      powers.push(sum / 30);
    }
    const loud = powers.filter((power) => toLufs(power) >= -70);
    if (loud.length === 0) return 0;
    const gate = toLufs(loud.reduce((sum, power) => sum + power, 0) / loud.length) - 20;
    const levels = loud.map(toLufs).filter((level) => level >= gate);
    return percentile(levels, 0.95) - percentile(levels, 0.1);
  }

  private windowed(size: number): Float32Array {
    const out = new Float32Array(this.steps.length);
    let sum = 0;
    for (let index = 0; index < this.steps.length; index++) {
      sum += this.steps[index]!;
      if (index >= size) sum -= this.steps[index - size]!;
      out[index] = Math.max(loudnessFloor, toLufs(Math.max(0, sum) / Math.min(size, index + 1)));
    }
    return out;
  }
}
