import { clamp, gaussianSmooth, percentile } from '#core/signal';
import type { Range } from '#core/time';
import type { CameraPath } from '#core/picture';
import type { Steady } from './types';

/** What one strength of steadying costs. */
export interface SteadyingPrice {
  /** 0 to 1, as asked for. */
  strength: number;
  /** Share of the picture that is lost when it is enlarged until no border shows, 0 to 1; of all frames, as they are rendered. */
  cropShare: number;
  /** How much the picture must be enlarged; 1 is not at all. */
  enlargement: number;
  /** How soft the result will be, 0 (as sharp as the source) to 1: blur of the shake that is already in the frames, spread by the enlargement. */
  softness: number;
  /** Share of the wander that is taken out, 0 to 1. */
  calmed: number;
}

/** Enlargement over which a steadied picture is no use; vid.stab's own guide warns over about 10 to 15 %. Common practice, no source. */
const worthwhile = { cropShare: 0.28, softness: 0.5 };

/** Strength (0 to 1) to the time over which the path is smoothed, in seconds: 0 keeps it, 1 smooths with a Gaussian of two seconds. */
export const sigmaSeconds = (strength: number): number => (strength <= 0 ? 0 : 0.08 * 25 ** strength);

/** An exposure of half a frame (a shutter of 180°) is usual. Common practice, no source. */
const shutter = 0.5;

/** Strengths of a steadying, each 0 to 1. */
type Strengths = Pick<Steady, 'position' | 'rotation' | 'scale'>;

/**
 * What steadying a run would cost, from the measured path alone, without rendering: the path is smoothed by a
 * Gaussian (as vid.stab does by default), the correction of every frame is the difference, and the enlargement is the
 * smallest that keeps all corrected frames inside the picture, as `steadyViews` does it.
 * @param wanted one strength for all, or each
 * @param shape height ÷ width of the picture
 * @param covered share of the frames that must show no border
 */
export function steadyingPrice(
  path: CameraPath,
  run: Range,
  wanted: number | Strengths,
  shape = 9 / 16,
  covered = 1,
): SteadyingPrice {
  const { position, rotation, scale } =
    typeof wanted === 'number' ? { position: wanted, rotation: wanted, scale: wanted } : wanted;
  const strength = position;
  const sigmas = [position, position, rotation, scale].map(sigmaSeconds) as [number, number, number, number];
  const { from, count, off } = corrections(path, run, sigmas);
  if (count < 2) return { strength, cropShare: 0, enlargement: 1, softness: 0, calmed: 0 };
  const [x, y, , zoom] = off;
  const enlargement = enlargementOver(off, shape, covered);
  // Frames that are zoomed to lie on the path show more or less than the enlargement says.
  const shown = zoom.reduce((sum, value) => sum + Math.exp(-2 * value), 0) / count / enlargement ** 2;
  const speed = Float32Array.from({ length: count }, (_, index) =>
    Math.hypot(path.dx[from + index]!, path.dy[from + index]!),
  );
  // Blur of a frame in picture widths: how far the camera went while the shutter was open. 0.4 % of the width is plainly soft.
  const blur = percentile(speed, 0.75) * shutter;
  const taken = Math.sqrt(meanSquare(x) + meanSquare(y));
  const wander = Math.sqrt(
    meanSquare(residual(path.dx, from, count, path.hz)) + meanSquare(residual(path.dy, from, count, path.hz)),
  );
  return {
    strength,
    enlargement,
    cropShare: clamp(1 - shown),
    softness: clamp((blur * enlargement) / 0.008 + (enlargement - 1) * 0.9 - 0.05),
    calmed: wander > 0 ? clamp(taken / wander) : 0,
  };
}

/** What is done to each frame: shifts in picture widths, turn in radians, zoom as a natural logarithm. */
export type Corrections = [x: Float32Array, y: Float32Array, turn: Float32Array, zoom: Float32Array];

/** By how much every frame of a run must be moved (in picture widths), turned and scaled to lie on the smoothed path; `sigmas` in seconds for each. */
export function corrections(
  path: CameraPath,
  run: Range,
  sigmas: readonly [number, number, number, number],
): { from: number; count: number; off: Corrections } {
  const from = Math.max(0, Math.round(run.start * path.hz));
  const count = Math.max(0, Math.min(path.dx.length, Math.round(run.end * path.hz)) - from);
  const off = [path.dx, path.dy, path.rotation, path.zoom].map((steps, which) => {
    const position = new Float32Array(count);
    for (let index = 1; index < count; index++)
      position[index] = position[index - 1]! + steps[from + index]! * clamp(path.confidence[from + index]! * 2.5);
    const smooth = count > 1 && sigmas[which]! > 0 ? smoothPath(position, sigmas[which]! * path.hz) : position;
    return position.map((value, index) => smooth[index]! - value);
  }) as Corrections;
  return { from, count, off };
}

/** How much pictures must be enlarged so that a share of the frames shows no border. */
export function enlargementOver([x, y, turn, zoom]: Corrections, shape: number, covered: number): number {
  if (x.length === 0) return 1;
  return Math.max(
    1,
    percentile(
      Float32Array.from(x, (_, index) => enlargementFor(x[index]!, y[index]!, turn[index]!, zoom[index]!, shape)),
      covered,
    ),
  );
}

/** Smooths around the straight line from the first to the last position, so that an even move costs nothing at its ends. */
function smoothPath(position: Float32Array, sigma: number): Float32Array {
  const last = position.length - 1;
  const line = (index: number) => position[0]! + ((position[last]! - position[0]!) * index) / Math.max(1, last);
  return gaussianSmooth(
    position.map((value, index) => value - line(index)),
    sigma,
  ).map((value, index) => value + line(index));
}

const meanSquare = (values: Float32Array) =>
  values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length);

/** The path's wander around what a very strong smoothing would leave. */
function residual(steps: Float32Array, from: number, count: number, hz: number): Float32Array {
  const position = new Float32Array(count);
  for (let index = 1; index < count; index++) position[index] = position[index - 1]! + steps[from + index]!;
  const smooth = smoothPath(position, sigmaSeconds(1) * hz);
  return position.map((value, index) => value - smooth[index]!);
}

/** How much a frame that is moved and turned must be enlarged to cover the picture: each corner must lie inside it. */
function enlargementFor(x: number, y: number, turn: number, zoom: number, shape: number): number {
  const scale = Math.exp(zoom);
  let most = 1;
  for (const [sx, sy] of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ] as const) {
    // The picture's corner, seen from the corrected frame.
    const u = sx * 0.5 - x;
    const v = sy * 0.5 * shape - y;
    const across = Math.abs(Math.cos(turn) * u + Math.sin(turn) * v) / 0.5;
    const down = Math.abs(-Math.sin(turn) * u + Math.cos(turn) * v) / (0.5 * shape);
    most = Math.max(most, across / scale, down / scale);
  }
  return most;
}

/** How strongly a stretch can be steadied, and why not more. */
export interface SteadyingAdvice {
  /** Strongest setting that costs little enough, or 0 when none does. */
  strength: number;
  price: SteadyingPrice;
  /** One sentence for people. */
  sentence: string;
}

/** The setting worth taking, and what it costs, in a sentence. */
export function steadyingAdvice(path: CameraPath, run: Range, shape = 9 / 16): SteadyingAdvice {
  const prices = [0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9].map((strength) => steadyingPrice(path, run, strength, shape));
  const good = prices.filter(
    (price) => price.cropShare <= worthwhile.cropShare && price.softness <= worthwhile.softness,
  );
  const price = good.at(-1) ?? prices[0]!;
  const percent = Math.round(price.cropShare * 100);
  if (good.length === 0) {
    const why =
      price.softness > worthwhile.softness
        ? 'the frames themselves are blurred by the shake'
        : `even a little costs ${percent} % of the picture`;
    return { strength: 0, price, sentence: `Not worth steadying: ${why}.` };
  }
  const next = prices.find((each) => each.strength > price.strength);
  const limit = !next
    ? ''
    : next.softness > worthwhile.softness
      ? ` Above ${Math.round(price.strength * 100)} it turns soft.`
      : ` Above ${Math.round(price.strength * 100)} it costs ${Math.round(next.cropShare * 100)} %.`;
  return {
    strength: price.strength,
    price,
    sentence: `At ${Math.round(price.strength * 100)} you lose ${percent} % of the picture${price.softness < 0.2 ? ' and keep it sharp' : price.softness < 0.35 ? ' and it stays fairly sharp' : ' and it gets a little soft'}.${limit}`,
  };
}
