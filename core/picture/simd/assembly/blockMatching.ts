/*
 * Block matching with SIMD. This is AssemblyScript, which looks like TypeScript and is compiled to WebAssembly (`npm run
 * simd`); see the compiler's own documentation for `v128` and its kin. What is computed, and in which order, is that of the
 * plain TypeScript in testBlockMatching.ts, to the last bit. Addresses are those of the module's memory. Behind every
 * picture lie 16 bytes that may be read, so that rows of 12 are loaded as rows of 16.
 */

/** What a search found; one place for all, read by the caller after it. */
let foundX: i32 = 0;
let foundY: i32 = 0;
let foundCost: f64 = 0;

/** Sum of absolute differences of 16 bytes, as eight sums of pairs. */
function pairs(a: v128, b: v128): v128 {
  return i16x8.extadd_pairwise_i8x16_u(v128.sub<u8>(v128.max<u8>(a, b), v128.min<u8>(a, b)));
}

function total(sums: v128): i32 {
  const four = i32x4.extadd_pairwise_i16x8_u(sums);
  return (
    i32x4.extract_lane(four, 0) +
    i32x4.extract_lane(four, 1) +
    i32x4.extract_lane(four, 2) +
    i32x4.extract_lane(four, 3)
  );
}

/** Of every second row of a block with this side: 16, 12 or 8. */
function differences(a: usize, b: usize, width: i32, size: i32): i32 {
  let sums = i16x8.splat(0);
  const step = <usize>(2 * width);
  if (size == 16)
    for (let row = 0; row < 16; row += 2, a += step, b += step)
      sums = v128.add<i16>(sums, pairs(v128.load(a), v128.load(b)));
  else if (size == 12) {
    const mask = i32x4(-1, -1, -1, 0);
    for (let row = 0; row < 12; row += 2, a += step, b += step)
      sums = v128.add<i16>(sums, pairs(v128.and(v128.load(a), mask), v128.and(v128.load(b), mask)));
  } else
    for (let row = 0; row < 8; row += 2, a += step, b += step)
      sums = v128.add<i16>(sums, pairs(v128.load64_zero(a), v128.load64_zero(b)));
  return total(sums);
}

/** Mean absolute difference of a block shifted by v; 1e9 outside the old picture or over `limit`. */
function blockCost(
  before: usize,
  now: usize,
  width: i32,
  height: i32,
  x: i32,
  y: i32,
  size: i32,
  vx: i32,
  vy: i32,
  limit: f64,
): f64 {
  const fromX = x - vx;
  const fromY = y - vy;
  if (fromX < 0 || fromY < 0 || fromX + size > width || fromY + size > height) return 1e9;
  const half = <f64>((size * size) >> 1);
  const sum = <f64>differences(now + <usize>(y * width + x), before + <usize>(fromY * width + fromX), width, size);
  return sum > limit * half ? 1e9 : sum / half;
}

/** Leaves the best shift within `reach` of (vx, vy) in what was found; the start wins ties. */
export function searchBlock(
  before: usize,
  now: usize,
  width: i32,
  height: i32,
  x: i32,
  y: i32,
  size: i32,
  vx: i32,
  vy: i32,
  reach: i32,
): void {
  let best = blockCost(before, now, width, height, x, y, size, vx, vy, 1e9);
  let bestX = vx;
  let bestY = vy;
  if (best > 0.35)
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        if (dx == 0 && dy == 0) continue;
        const cost = blockCost(before, now, width, height, x, y, size, vx + dx, vy + dy, best) + 0.02;
        if (cost < best) {
          best = cost;
          bestX = vx + dx;
          bestY = vy + dy;
        }
      }
  foundX = bestX;
  foundY = bestY;
  foundCost = best;
}

function clamp(value: i32, low: i32, high: i32): i32 {
  return value < low ? low : value > high ? high : value;
}

function round(value: f64): i32 {
  return <i32>Math.floor(value + 0.5);
}

/** Mean difference of neighbours in a block of 16, over every second row. */
function blockTexture(data: usize, width: i32, x0: i32, y0: i32): f64 {
  let sums = i16x8.splat(0);
  let across: i32 = 0;
  for (let y = y0; y < y0 + 16; y += 2) {
    const at = data + <usize>(y * width + x0);
    sums = v128.add<i16>(sums, pairs(v128.load(at + 1), v128.load(at - 1)));
    across += total(pairs(v128.load(at + <usize>width), v128.load(at - <usize>width)));
  }
  return <f64>(total(sums) + across) / 256;
}

function vertex(left: f64, middle: f64, right: f64): f64 {
  if (left >= 1e9 || right >= 1e9) return 0;
  const steep = max(left, right) - middle;
  return steep <= 0 ? 0 : max(-0.5, min(0.5, (left - right) / (2 * steep)));
}

const columns = 16;
const rows = 9;

/**
 * All blocks of a picture, found in the one before.
 * @param before addresses of three sizes of the old picture (whole, half, quarter), and `now` of the new one
 * @param out where five numbers a block go: middle x and y, shift x and y, and 1 where it is lost
 * @returns how many blocks have texture, and so stand at `out`
 */
export function matchBlocks(
  before0: usize,
  before1: usize,
  before2: usize,
  now0: usize,
  now1: usize,
  now2: usize,
  width: i32,
  height: i32,
  coarseX: i32,
  coarseY: i32,
  out: usize,
): i32 {
  let count = 0;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const fx = (<f64>column + 0.5) / <f64>columns;
      const fy = (<f64>row + 0.5) / <f64>rows;
      const bx = clamp(round(fx * <f64>width) - 8, 1, width - 17);
      const by = clamp(round(fy * <f64>height) - 8, 1, height - 17);
      const texture = blockTexture(now0, width, bx, by);
      if (texture < 3) continue;
      foundX = coarseX * 2;
      foundY = coarseY * 2;
      const width2 = (width >> 1) >> 1;
      const height2 = (height >> 1) >> 1;
      searchAt(before2, now2, width2, height2, fx, fy, 8, 2);
      foundX *= 2;
      foundY *= 2;
      searchAt(before1, now1, width >> 1, height >> 1, fx, fy, 12, 1);
      foundX *= 2;
      foundY *= 2;
      searchAt(before0, now0, width, height, fx, fy, 16, 1);
      const x = clamp(round(fx * <f64>width) - 8, 0, width - 16);
      const y = clamp(round(fy * <f64>height) - 8, 0, height - 16);
      const vx = foundX;
      const vy = foundY;
      const cost = foundCost;
      const lost = cost > 4 + texture * 1.35;
      let subX: f64 = 0;
      let subY: f64 = 0;
      if (!lost && cost != 0) {
        subX = vertex(
          blockCost(before0, now0, width, height, x, y, 16, vx - 1, vy, 1e9),
          cost,
          blockCost(before0, now0, width, height, x, y, 16, vx + 1, vy, 1e9),
        );
        subY = vertex(
          blockCost(before0, now0, width, height, x, y, 16, vx, vy - 1, 1e9),
          cost,
          blockCost(before0, now0, width, height, x, y, 16, vx, vy + 1, 1e9),
        );
      }
      const to = out + <usize>(count * 40);
      store<f64>(to, <f64>x + 8);
      store<f64>(to + 8, <f64>y + 8);
      store<f64>(to + 16, <f64>vx + subX);
      store<f64>(to + 24, <f64>vy + subY);
      store<f64>(to + 32, lost ? 1 : 0);
      count++;
    }
  return count;
}

function searchAt(before: usize, now: usize, width: i32, height: i32, fx: f64, fy: f64, size: i32, reach: i32): void {
  const x = clamp(round(fx * <f64>width) - (size >> 1), 0, width - size);
  const y = clamp(round(fy * <f64>height) - (size >> 1), 0, height - size);
  searchBlock(before, now, width, height, x, y, size, foundX, foundY, reach);
}

let shiftX: i32 = 0;
let shiftY: i32 = 0;

/** 0, 1, -1, 2, -2 ... */
function outwards(index: i32): i32 {
  return index & 1 ? (index + 1) >> 1 : -(index >> 1);
}

/** Whole-picture shift of a small picture, in its pixels; the answer is x + 65536 · y, both plus 16384. */
export function coarseShift(before: usize, now: usize, width: i32, height: i32): i32 {
  const reachX = width >> 1;
  const reachY = height >> 2;
  let best: f64 = 1e9;
  shiftX = 0;
  shiftY = 0;
  for (let row = 0; row <= 2 * reachY; row++)
    for (let column = 0; column <= 2 * reachX; column++) {
      const sy = outwards(row);
      const sx = outwards(column);
      const x0 = max(0, sx);
      const x1 = min(width, width + sx);
      const y0 = max(0, sy);
      const y1 = min(height, height + sy);
      const count = <f64>((x1 - x0) * (y1 - y0));
      const far = 0.035 * <f64>(abs(sx) + abs(sy));
      const limit = (best - far) * count;
      let sum: i32 = 0;
      for (let y = y0; y < y1 && <f64>sum < limit; y++) {
        let to = now + <usize>(y * width + x0);
        let from = before + <usize>((y - sy) * width + x0 - sx);
        const end = to + <usize>(x1 - x0);
        let sums = i16x8.splat(0);
        for (; to + 16 <= end; to += 16, from += 16) sums = v128.add<i16>(sums, pairs(v128.load(to), v128.load(from)));
        sum += total(sums);
        for (; to < end; to++, from++) sum += abs(<i32>load<u8>(to) - <i32>load<u8>(from));
      }
      const cost = <f64>sum / count + far;
      if (cost < best) {
        best = cost;
        shiftX = sx;
        shiftY = sy;
      }
    }
  return ((shiftY + 0x4000) << 16) | (shiftX + 0x4000);
}
