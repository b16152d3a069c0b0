import { clamp, prefixSums } from '#core/signal';
import { lengthOf, type Range } from '#core/time';
import { cutPoints } from './cutPoints';
import { flawedStretches, shutOut, type Flaw } from './limits';
import { explainScore, scoreCurve, type Prepared } from './score';
import type { Decision, Footage, Limits, Mix, Moment, PieceLength } from './types';

/** What a choice goes by, apart from what was decided by hand. */
export interface ChoiceSettings {
  mix: Mix;
  limits: Limits;
  piece: PieceLength;
}

/** Everything of one file that does not depend on the threshold: score, cut points and what is shut out. */
export interface Ground {
  prepared: Prepared;
  curve: Float32Array;
  sums: Float64Array;
  flaws: Flaw[];
  shut: Range[];
  points: number[];
  /** For each point the first one within `nearSeconds` before it, and how alike the pictures at both are, from there to the point itself. */
  near: { from: number; alike: Float32Array }[];
  decisions: Decision[];
  piece: PieceLength;
}

/**
 * Lays the ground for choosing. Stretches that a person decided about are taken out: kept ones stand for themselves,
 * dropped ones are shut like flaws.
 */
export function layGround(prepared: Prepared, settings: ChoiceSettings, decisions: readonly Decision[]): Ground {
  const { footage } = prepared;
  const own = decisions.filter((decision) => decision.media === footage.id);
  const flaws = flawedStretches(footage, settings.limits);
  const shut = shutOut([...flaws, ...own.map((decision) => ({ ...decision, kind: 'dark' as const }))]);
  const curve = scoreCurve(prepared, settings.mix);
  const points = cutPoints(footage, shut);
  return {
    prepared,
    curve,
    sums: prefixSums(curve),
    flaws,
    shut,
    points,
    near: nearPoints(footage, points),
    decisions: own,
    piece: settings.piece,
  };
}

/** For each point those shortly before it, with how alike the pictures at both are; it does not depend on mix or threshold. */
export function nearPoints(footage: Footage, points: readonly number[]): Ground['near'] {
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

/** The same ground under another mix: what is shut out and where cuts may fall does not change, so only the score is made anew. */
export function reweigh(ground: Ground, mix: Mix): Ground {
  const curve = scoreCurve(ground.prepared, mix);
  return { ...ground, curve, sums: prefixSums(curve) };
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
export function choosePieces(ground: Ground, threshold: number): Range[] {
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

/** Kept by hand, then by the threshold, in the order of time; with scores and their shares. */
function momentsAt(ground: Ground, mix: Mix, threshold: number): Moment[] {
  const { prepared, sums } = ground;
  const { id, hz } = prepared.footage;
  const moment = (range: Range, kept: Moment['kept'], decision?: string): Moment => {
    const a = Math.round(range.start * hz);
    const b = Math.min(sums.length - 1, Math.max(a + 1, Math.round(range.end * hz)));
    const score = (sums[b]! - sums[a]!) / Math.max(1, b - a);
    return {
      media: id,
      start: range.start,
      end: range.end,
      score,
      shares: explainScore(prepared, mix, range.start, range.end, score),
      kept,
      ...(decision ? { decision } : {}),
    };
  };
  return [
    ...ground.decisions
      .filter((decision) => decision.verdict === 'keep')
      .map((decision) => moment(decision, 'hand', decision.id)),
    ...choosePieces(ground, threshold).map((range) => moment(range, 'score')),
  ].sort((a, b) => a.start - b.start);
}

/** What is chosen, the score threshold from which on, and how long it is in seconds. */
export interface Choice {
  threshold: number;
  moments: Moment[];
  seconds: number;
}

/** What a score threshold keeps of all footage. */
export function chooseAbove(grounds: readonly Ground[], mix: Mix, threshold: number): Choice {
  const moments = grounds.flatMap((ground) => momentsAt(ground, mix, threshold));
  return { threshold, moments, seconds: moments.reduce((sum, moment) => sum + lengthOf(moment), 0) };
}

/** Levels that a search for a target tries lie so far apart. */
const thresholdStep = 0.05;

/**
 * The lowest score threshold (of steps of 0.05) whose total does not exceed the target. The total never grows with the
 * threshold, so bisection finds it; from a level near the answer it takes half as many tries, with the same answer. Pieces
 * kept by hand count, and stay even when they alone are longer.
 * @param near a level to begin the search at, from the choice before
 */
export function chooseForTarget(
  grounds: readonly Ground[],
  mix: Mix,
  targetSeconds: number,
  near: number | null = null,
): Choice {
  const byHand = grounds
    .flatMap((ground) => ground.decisions)
    .filter((decision) => decision.verdict === 'keep')
    .reduce((sum, decision) => sum + lengthOf(decision), 0);
  const fits = (step: number) =>
    byHand +
      grounds.reduce(
        (sum, ground) =>
          sum + choosePieces(ground, step * thresholdStep).reduce((part, range) => part + lengthOf(range), 0),
        0,
      ) <=
    targetSeconds;
  // Too long at every level up to `low`; fits from `high` on.
  let low = -1;
  let high = Math.round(100 / thresholdStep);
  if (near !== null) {
    const start = Math.min(high, Math.max(0, Math.round(near / thresholdStep)));
    const down = fits(start);
    if (down) high = start;
    else low = start;
    for (let reach = 4; high - low > 1; reach *= 4) {
      const next = down ? high - reach : low + reach;
      if (next <= low || next >= high) break;
      const fit = fits(next);
      if (fit) high = next;
      else low = next;
      if (fit !== down) break;
    }
  }
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (fits(middle)) high = middle;
    else low = middle;
  }
  return chooseAbove(grounds, mix, high * thresholdStep);
}

/** A sensible reel length for so much material: 13 minutes suggest about 5; short material keeps most of itself. Common practice, no source. */
export function suggestedTarget(rawSeconds: number): number {
  const wanted = rawSeconds <= 30 ? rawSeconds * 0.8 : 60 * 1.0 * (rawSeconds / 156) ** 0.97;
  return Math.max(5, Math.round(Math.min(wanted, 900) / 5) * 5);
}
