import {
  cutPoints,
  defaultLimits,
  defaultMix,
  prepare,
  scoreCurve,
  shutOut,
  flawedStretches,
  type Footage,
  type PieceLength,
} from '#core/moments';
import { clamp, prefixSums } from '#core/signal';
import { lengthOf, type Range } from '#core/time';

/**
 * The choice that this program made before variety counted, as a reference: of all sets of non-overlapping pieces the
 * one whose sum of (score − threshold) × length is largest, per file, with the threshold that fills the target.
 */
const piece: PieceLength = { minSeconds: 2, preferredSeconds: 6, maxSeconds: 20 };

interface Ground {
  prepared: ReturnType<typeof prepare>;
  sums: Float64Array;
  shut: Range[];
  points: number[];
  near: { from: number; alike: Float32Array }[];
  piece: PieceLength;
}

/** Pieces for a length, as they were chosen before. */
export function chooseAsBefore(footage: readonly Footage[], target: number): (Range & { media: string })[] {
  const grounds = footage.map((each): Ground => {
    const prepared = prepare(each);
    const shut = shutOut(flawedStretches(each, defaultLimits));
    const points = cutPoints(each, shut);
    return {
      prepared,
      sums: prefixSums(scoreCurve(prepared, defaultMix)),
      shut,
      points,
      near: nearPoints(each, points),
      piece,
    };
  });
  const at = (threshold: number) =>
    grounds.flatMap((ground) =>
      choosePieces(ground, threshold).map((range) => ({ media: ground.prepared.footage.id, ...range })),
    );
  let low = 0;
  let high = 2000;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (at(middle / 20).reduce((sum, each) => sum + lengthOf(each), 0) <= target) high = middle;
    else low = middle;
  }
  return at(high / 20);
}

/** For each point those shortly before it, with how alike the pictures at both are; it does not depend on mix or threshold. */
function nearPoints(footage: Footage, points: readonly number[]): Ground['near'] {
  let from = 0;
  return points.map((start, at) => {
    while (from < at && points[from]! <= start - nearSeconds) from++;
    return {
      from,
      alike: Float32Array.from({ length: at - from + 1 }, (_, index) =>
        likeness(footage, points[from + index]!, start),
      ),
    };
  });
}

/** A piece must be worth this many point-seconds more than nothing; keeps the choice from crumbling. */
const pieceCost = 25;
/** Largest loss, in point-seconds, for following a piece that looks the same within `nearSeconds`. */
const sameCost = 45;
const nearSeconds = 8;

/**
 * The pieces that score above the threshold: of all sets of non-overlapping pieces between cut points, the one whose
 * sum of (score − threshold) × length is largest, less a cost per piece, for odd lengths, and for following a
 * look-alike closely. Exact, by dynamic programming over cut points (weighted interval scheduling, Kleinberg &
 * Tardos 2005, 6.1, with a transition cost); O(points × pieces that fit). The length of the result never grows with the threshold.
 */
function choosePieces(ground: Ground, threshold: number): Range[] {
  const { points, near, sums, shut, piece } = ground;
  const { hz, durationSeconds, whole } = ground.prepared.footage;
  const count = points.length;
  if (count < 2) return [];
  const at = (seconds: number) => sums[Math.min(sums.length - 1, Math.round(seconds * hz))]!;
  const best = new Float64Array(count).fill(-Infinity);
  const from = new Int32Array(count).fill(-1);
  const before = new Int32Array(count).fill(-1);
  const farBest = new Float64Array(count + 1);
  const farAt = new Int32Array(count + 1).fill(-1);
  const minimum = Math.min(piece.minSeconds, durationSeconds);
  let shutIndex = 0;
  for (let p = 0; p < count; p++) {
    const start = points[p]!;
    farBest[p + 1] = farBest[p]!;
    farAt[p + 1] = farAt[p]!;
    if (best[p]! > farBest[p]!) {
      farBest[p + 1] = best[p]!;
      farAt[p + 1] = p;
    }
    const { from: far, alike } = near[p]!;
    let base = farBest[far]!;
    let last = farAt[far]!;
    for (let k = far; k <= p; k++) {
      if (best[k] === -Infinity) continue;
      const value = best[k]! - sameCost * alike[k - far]!;
      if (value > base) {
        base = value;
        last = k;
      }
    }
    while (shutIndex < shut.length && shut[shutIndex]!.end <= start + 1e-6) shutIndex++;
    const wall = Math.min(durationSeconds, shut[shutIndex]?.start ?? Infinity);
    if (wall <= start) continue;
    let only = true;
    for (let q = p + 1; q < count && points[q]! <= wall + 1e-6; q++) {
      const length = points[q]! - start;
      if (length < minimum - 1e-6) continue;
      if (length > piece.maxSeconds && !only) break;
      only = false;
      const value =
        base +
        (at(points[q]!) - at(start)) / hz -
        threshold * length -
        pieceCost -
        (whole ? 0 : oddCost(length, piece));
      if (value > best[q]!) {
        best[q] = value;
        from[q] = p;
        before[q] = last;
      }
      if (length > piece.maxSeconds) break;
    }
  }
  let end = -1;
  for (let q = 0; q < count; q++) if (best[q]! > 0 && (end < 0 || best[q]! > best[end]!)) end = q;
  const pieces: Range[] = [];
  for (let q = end; q >= 0; q = before[q]!) pieces.push({ start: points[from[q]!]!, end: points[q]! });
  return pieces.reverse();
}

/** Grows with the octaves between a piece's length and the preferred one, faster for longer pieces. */
function oddCost(length: number, piece: PieceLength): number {
  const octaves = Math.log2(length / piece.preferredSeconds);
  return (octaves > 0 ? 45 : 10) * octaves * octaves;
}

/** How alike the picture before `end` and the one after `start` look, 0 to 1, less with the seconds between. */
function likeness({ look }: Footage, end: number, start: number): number {
  const near = clamp(1 - (start - end) / nearSeconds);
  if (!look || look.values.length === 0) return near;
  const last = look.values.length / look.cells - 1;
  const a = Math.min(last, Math.max(0, Math.floor((end - 0.3) * look.hz))) * look.cells;
  const b = Math.min(last, Math.ceil((start + 0.3) * look.hz)) * look.cells;
  let difference = 0;
  for (let cell = 0; cell < look.cells; cell++) difference += Math.abs(look.values[a + cell]! - look.values[b + cell]!);
  return near * clamp(1 - difference / look.cells / 0.08);
}
