import type { Gray } from './gray';
import type { BlockMatch } from './simd/blockMatcher';

/** Block matching in plain TypeScript: what `simd/blockMatching` computes must be the same to the last bit. */
/** Whole-picture shift at an eighth of the size, in its pixels; reaches half the width, as whip pans need. */
export function coarseShift(old: Gray, { width, height, data: now }: Gray): { x: number; y: number } {
  const before = old.data;
  const reachX = width >> 1;
  const reachY = height >> 2;
  let best = 1e9;
  const shift = { x: 0, y: 0 };
  for (let row = 0; row <= 2 * reachY; row++)
    for (let column = 0; column <= 2 * reachX; column++) {
      const sy = outwards(row);
      const sx = outwards(column);
      const x0 = Math.max(0, sx);
      const x1 = Math.min(width, width + sx);
      const y0 = Math.max(0, sy);
      const y1 = Math.min(height, height + sy);
      const count = (x1 - x0) * (y1 - y0);
      const limit = (best - 0.035 * (Math.abs(sx) + Math.abs(sy))) * count;
      let sum = 0;
      for (let y = y0; y < y1 && sum < limit; y++) {
        let to = y * width + x0;
        let from = (y - sy) * width + x0 - sx;
        for (let x = x0; x < x1; x++) {
          const difference = now[to++]! - before[from++]!;
          sum += difference < 0 ? -difference : difference;
        }
      }
      const cost = sum / count + 0.035 * (Math.abs(sx) + Math.abs(sy));
      if (cost < best) {
        best = cost;
        shift.x = sx;
        shift.y = sy;
      }
    }
  return shift;
}

/** 0, 1, -1, 2, -2 ...: small shifts first, since a good early match ends the others sooner. */
const outwards = (index: number) => (index & 1 ? (index + 1) >> 1 : -(index >> 1));

const sizes = [16, 12, 8];
const reaches = [1, 1, 2];

const columns = 16;
const rows = 9;

/** All blocks of a picture that have texture. */
export const matchBlocks = (before: Gray[], now: Gray[], coarse: { x: number; y: number }): BlockMatch[] =>
  Array.from({ length: rows * columns }, (_, index) =>
    matchBlock(before, now, ((index % columns) + 0.5) / columns, (Math.floor(index / columns) + 0.5) / rows, coarse),
  ).filter((match) => match !== null);

/** The block around (fx, fy) of the new picture, found in the old one; null without texture. */
function matchBlock(
  before: Gray[],
  now: Gray[],
  fx: number,
  fy: number,
  coarse: { x: number; y: number },
): BlockMatch | null {
  const base = now[0]!;
  const bx = clampInt(Math.round(fx * base.width) - 8, 1, base.width - 17);
  const by = clampInt(Math.round(fy * base.height) - 8, 1, base.height - 17);
  const texture = blockTexture(base.data, base.width, bx, by);
  if (texture < 3) return null;
  found.vx = coarse.x * 2;
  found.vy = coarse.y * 2;
  for (let level = 2; level >= 0; level--) {
    const { data, width, height } = now[level]!;
    const size = sizes[level]!;
    const x = clampInt(Math.round(fx * width) - (size >> 1), 0, width - size);
    const y = clampInt(Math.round(fy * height) - (size >> 1), 0, height - size);
    searchBlock(before[level]!.data, data, width, height, x, y, size, found.vx, found.vy, reaches[level]!);
    if (level > 0) {
      found.vx *= 2;
      found.vy *= 2;
      continue;
    }
    const lost = found.cost > 4 + texture * 1.35;
    const oldData = before[0]!.data;
    const side = (dx: number, dy: number) =>
      blockCost(oldData, data, width, height, x, y, size, found.vx + dx, found.vy + dy, 1e9);
    const subX = lost || found.cost === 0 ? 0 : vertex(side(-1, 0), found.cost, side(1, 0));
    const subY = lost || found.cost === 0 ? 0 : vertex(side(0, -1), found.cost, side(0, 1));
    return { x: x + size / 2, y: y + size / 2, vx: found.vx + subX, vy: found.vy + subY, lost };
  }
  return null;
}

/** Where the last search ended; one object for all, because this runs hundreds of times a picture. */
const found = { vx: 0, vy: 0, cost: 0 };

const clampInt = (value: number, low: number, high: number) => (value < low ? low : value > high ? high : value);

function blockTexture(data: Uint8Array, width: number, x0: number, y0: number): number {
  let sum = 0;
  for (let y = y0; y < y0 + 16; y += 2)
    for (let x = x0, at = y * width + x0; x < x0 + 16; x++, at++)
      sum += Math.abs(data[at + 1]! - data[at - 1]!) + Math.abs(data[at + width]! - data[at - width]!);
  return sum / 256;
}

/** Mean absolute difference of a block shifted by v, over every second row; 1e9 outside the old picture or over `limit`. */
function blockCost(
  before: Uint8Array,
  now: Uint8Array,
  width: number,
  height: number,
  x: number,
  y: number,
  size: number,
  vx: number,
  vy: number,
  limit: number,
): number {
  const fromX = x - vx;
  const fromY = y - vy;
  if (fromX < 0 || fromY < 0 || fromX + size > width || fromY + size > height) return 1e9;
  const most = limit * ((size * size) >> 1);
  let sum = 0;
  let a = y * width + x;
  let b = fromY * width + fromX;
  const skip = 2 * width - size;
  for (let row = 0; row < size; row += 2) {
    const end = a + size;
    while (a < end) {
      const difference = now[a++]! - before[b++]!;
      sum += difference < 0 ? -difference : difference;
    }
    if (sum > most) return 1e9;
    a += skip;
    b += skip;
  }
  return sum / ((size * size) >> 1);
}

/** Leaves the best shift within `reach` of (vx, vy) in `found`; the start wins ties. */
function searchBlock(
  before: Uint8Array,
  now: Uint8Array,
  width: number,
  height: number,
  x: number,
  y: number,
  size: number,
  vx: number,
  vy: number,
  reach: number,
): void {
  let best = blockCost(before, now, width, height, x, y, size, vx, vy, 1e9);
  let bestX = vx;
  let bestY = vy;
  if (best > 0.35)
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        if (dx === 0 && dy === 0) continue;
        const cost = blockCost(before, now, width, height, x, y, size, vx + dx, vy + dy, best) + 0.02;
        if (cost < best) {
          best = cost;
          bestX = vx + dx;
          bestY = vy + dy;
        }
      }
  found.vx = bestX;
  found.vy = bestY;
  found.cost = best;
}

/** Sub-pixel minimum between three costs: equiangular lines fit absolute differences better than a parabola (Shimizu & Okutomi 2005). */
function vertex(left: number, middle: number, right: number): number {
  if (left >= 1e9 || right >= 1e9) return 0;
  const steep = Math.max(left, right) - middle;
  return steep <= 0 ? 0 : Math.max(-0.5, Math.min(0.5, (left - right) / (2 * steep)));
}
