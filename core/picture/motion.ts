import { halve, type Gray } from './gray';
import { fitSimilarity, type Similarity } from './similarity';

/** Camera motion from the previous picture to this one, and what moves besides. */
export interface FrameMotion {
  /** Shift of the picture's content in fractions of the picture width (dx) and height is not used: dy is in widths too. */
  dx: number;
  dy: number;
  /** Radians, clockwise on screen. */
  rotation: number;
  /** Natural logarithm of the magnification. */
  zoom: number;
  /** Share of usable blocks that agree with the camera motion, 0 to 1. */
  confidence: number;
  /** Mean speed of blocks that do not, over all blocks, in picture widths per frame. */
  things: number;
  /** Share of the picture's blocks that move on their own, 0 to 1. */
  thingsShare: number;
  /** Middle of that motion, 0 (left) to 1 (right); 0.5 when nothing moves. */
  thingsX: number;
  /** The same from top (0) to bottom (1). */
  thingsY: number;
  /** Share of blocks that have no counterpart in the previous picture, 0 to 1: near 1 at a hard cut. */
  unmatched: number;
  /** Mean absolute change of a pixel, 0 to 255; 0 for a repeated picture. */
  change: number;
  /** Mean luma, 0 to 1. */
  mean: number;
}

const columns = 16;
const rows = 9;
const none: FrameMotion = {
  dx: 0,
  dy: 0,
  rotation: 0,
  zoom: 0,
  confidence: 0,
  things: 0,
  thingsShare: 0,
  thingsX: 0.5,
  thingsY: 0.5,
  unmatched: 0,
  change: 0,
  mean: 0,
};

/**
 * Global motion by hierarchical block matching (Bierling 1988) and a robust similarity fit over the block vectors
 * (RANSAC, Fischler & Bolles 1981, then reweighted least squares). Blocks without texture are left out; what moves
 * against the fit is motion of things. Pictures are about 320 pixels wide.
 */
export class MotionEstimator {
  private previous: Gray[] | null = null;
  private spare: Gray[] | null = null;
  private textured = -1;
  private last = { x: 0, y: 0 };
  /** What the camera did last; null where that could not be told. */
  private model: Similarity | null = null;

  /** Measures the motion from the picture given before; all zero for the first one. The picture is copied. */
  next(picture: Gray): FrameMotion {
    const pyramid = buildPyramid(picture, this.spare);
    const previous = this.previous;
    this.spare = previous;
    this.previous = pyramid;
    const mean = meanLuma(pyramid[3]!);
    if (!previous || previous[0]!.width !== picture.width || previous[0]!.height !== picture.height)
      return { ...none, mean };
    const change = meanChange(previous[1]!, pyramid[1]!);
    if (change < 0.02) return { ...none, confidence: 1, change, mean };
    return { ...this.estimate(previous, pyramid, change), change, mean };
  }

  /** How much of the picture gained or lost all detail since the last one, 0 to 1: a cut into darkness or blur. */
  private detailChange(textured: number): number {
    const before = this.textured;
    this.textured = textured;
    const most = Math.max(before, textured);
    return before < 0 || most < (columns * rows) / 6 ? 0 : 1 - Math.min(before, textured) / most;
  }

  /** Block vectors around a coarse shift (in eighths of the size), and the camera motion most of them agree on. */
  private match(before: Gray[], now: Gray[], coarse: { x: number; y: number }) {
    const points: BlockMatch[] = [];
    let textured = 0;
    let unmatched = 0;
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        const match = matchBlock(before, now, (column + 0.5) / columns, (row + 0.5) / rows, coarse);
        if (!match) continue;
        textured++;
        if (match.lost) unmatched++;
        else points.push(match);
      }
    const fit = points.length < 6 ? null : fitSimilarity(points, now[0]!.width / 2, now[0]!.height / 2, this.model);
    return { points, textured, unmatched, fit, agreeing: fit ? fit.inliers * points.length : 0 };
  }

  private estimate(before: Gray[], now: Gray[], change: number): FrameMotion {
    const { width, height } = now[0]!;
    let best = this.match(before, now, coarseShift(before[3]!, now[3]!));
    // Fine texture misleads the coarse search; when few blocks agree, what the camera did last, or rest, is tried too.
    for (const guess of [this.last, { x: 0, y: 0 }]) {
      if (best.agreeing > best.textured * 0.5) break;
      const other = this.match(before, now, guess);
      if (other.agreeing > best.agreeing) best = other;
    }
    const { points, textured, fit } = best;
    const lostShare = Math.max(textured ? best.unmatched / textured : 0, this.detailChange(textured));
    this.model = fit?.model ?? null;
    // Without detail there is nothing to follow: little change then counts as a camera at rest, not as a new picture.
    if (!fit) return { ...none, unmatched: lostShare, confidence: textured < 6 && change < 3 ? 1 : 0 };
    this.last = { x: Math.round(fit.model.tx / 8), y: Math.round(fit.model.ty / 8) };
    const residuals = points.map((point) => residual(point, fit.model, width / 2, height / 2));
    let things = 0;
    let moving = 0;
    let across = 0;
    let down = 0;
    for (const [index, size] of residuals.entries()) {
      if (size < 0.9 + 0.04 * Math.hypot(fit.model.tx, fit.model.ty)) continue;
      things += Math.min(size, width / 8);
      moving++;
      across += points[index]!.x / width;
      down += points[index]!.y / height;
    }
    const all = columns * rows;
    return {
      dx: fit.model.tx / width,
      dy: fit.model.ty / width,
      rotation: Math.atan2(fit.model.b, 1 + fit.model.a),
      zoom: Math.log(Math.hypot(1 + fit.model.a, fit.model.b)),
      confidence: fit.inliers * (1 - lostShare) * Math.min(1, textured / (all * 0.25)),
      things: things / all / width,
      thingsShare: moving / all,
      thingsX: moving ? across / moving : 0.5,
      thingsY: moving ? down / moving : 0.5,
      unmatched: lostShare,
      change: 0,
      mean: 0,
    };
  }
}

interface BlockMatch {
  x: number;
  y: number;
  vx: number;
  vy: number;
  lost: boolean;
}

function residual(point: BlockMatch, model: Similarity, cx: number, cy: number): number {
  const x = point.x - cx;
  const y = point.y - cy;
  const dx = point.vx - (model.tx + model.a * x - model.b * y);
  const dy = point.vy - (model.ty + model.b * x + model.a * y);
  return Math.sqrt(dx * dx + dy * dy);
}

function buildPyramid(picture: Gray, spare: Gray[] | null): Gray[] {
  const base =
    spare?.[0]?.data.length === picture.data.length
      ? spare[0]
      : { width: picture.width, height: picture.height, data: new Uint8Array(picture.data.length) };
  base.data.set(picture.data);
  const half = halve(base, spare?.[1]);
  const quarter = halve(half, spare?.[2]);
  return [base, half, quarter, halve(quarter, spare?.[3])];
}

function meanLuma({ data }: Gray): number {
  let sum = 0;
  for (let index = 0; index < data.length; index++) sum += data[index]!;
  return sum / data.length / 255;
}

function meanChange(a: Gray, b: Gray): number {
  let sum = 0;
  for (let index = 0; index < a.data.length; index++) sum += Math.abs(a.data[index]! - b.data[index]!);
  return sum / a.data.length;
}

/** Whole-picture shift at an eighth of the size, in its pixels; reaches half the width, as whip pans need. */
function coarseShift(old: Gray, { width, height, data: now }: Gray): { x: number; y: number } {
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
