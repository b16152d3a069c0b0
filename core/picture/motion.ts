import { halve, type Gray } from './gray';
import { BlockMatcher, type BlockMatch } from './simd/blockMatcher';
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
  private matcher: BlockMatcher | null = null;
  /** Pictures of this size so far; old and new take turns in the matcher's two places. */
  private count = 0;
  private textured = -1;
  private last = { x: 0, y: 0 };
  /** What the camera did last; null where that could not be told. */
  private model: Similarity | null = null;

  /** Measures the motion from the picture given before; all zero for the first one. The picture is copied. */
  next(picture: Gray): FrameMotion {
    if (this.matcher?.width !== picture.width || this.matcher.height !== picture.height) {
      this.matcher = new BlockMatcher(picture.width, picture.height);
      this.count = 0;
    }
    const [previous, pyramid] = [this.matcher.pyramids[this.count % 2]!, this.matcher.pyramids[(this.count + 1) % 2]!];
    fillPyramid(picture, pyramid);
    const mean = meanLuma(pyramid[3]!);
    if (this.count++ === 0) return { ...none, mean };
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
    const matches = this.matcher!.matchBlocks(before, now, coarse);
    const points = matches.filter((match) => !match.lost);
    const [textured, unmatched] = [matches.length, matches.length - points.length];
    const fit = points.length < 6 ? null : fitSimilarity(points, now[0]!.width / 2, now[0]!.height / 2, this.model);
    return { points, textured, unmatched, fit, agreeing: fit ? fit.inliers * points.length : 0 };
  }

  private estimate(before: Gray[], now: Gray[], change: number): FrameMotion {
    const { width, height } = now[0]!;
    let best = this.match(before, now, this.matcher!.coarseShift(before[3]!, now[3]!));
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

function residual(point: BlockMatch, model: Similarity, cx: number, cy: number): number {
  const x = point.x - cx;
  const y = point.y - cy;
  const dx = point.vx - (model.tx + model.a * x - model.b * y);
  const dy = point.vy - (model.ty + model.b * x + model.a * y);
  return Math.sqrt(dx * dx + dy * dy);
}

function fillPyramid(picture: Gray, [whole, half, quarter, eighth]: Gray[]): void {
  whole!.data.set(picture.data);
  halve(whole!, half);
  halve(half!, quarter);
  halve(quarter!, eighth);
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
