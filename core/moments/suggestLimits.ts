import { structureOrFaces } from './limits';
import type { Footage, Limits } from './types';

/** Where a limit was put, or why it stays. */
export interface SuggestedLimit {
  limit: 'shake' | 'blur' | 'dark' | 'contrast' | 'white' | 'plain';
  /** The new value; null when there is no gap to put it in. */
  at: number | null;
  /** Share of all footage on the bad side of it, 0 to 1. */
  bad: number;
}

interface Sought {
  limit: SuggestedLimit['limit'];
  /** Of one file, at every sample. */
  values(footage: Footage): Float32Array;
  /** Between which the gap is looked for, and how far a reading reaches. */
  from: number;
  to: number;
  scale: number;
  /** On which side of the gap the bad ones are. */
  badIs: 'over' | 'under';
}
const sought: readonly Sought[] = [
  { limit: 'shake', values: ({ traces }) => traces.shake, from: 0.25, to: 0.8, scale: 1, badIs: 'over' },
  { limit: 'blur', values: ({ traces }) => traces.sharpness, from: 0.15, to: 0.6, scale: 1, badIs: 'under' },
  { limit: 'dark', values: ({ traces }) => traces.exposure, from: 0.05, to: 0.5, scale: 1, badIs: 'under' },
  { limit: 'contrast', values: ({ traces }) => traces.contrast, from: 0.03, to: 0.12, scale: 0.4, badIs: 'under' },
  { limit: 'white', values: ({ traces }) => traces.white, from: 0.2, to: 0.8, scale: 1, badIs: 'over' },
  { limit: 'plain', values: structureOrFaces, from: 0.015, to: 0.08, scale: 0.2, badIs: 'under' },
];

const bins = 100;
/** A gap is one when its emptiest part holds so little of the fullest bin on the lower of its two sides, */
const emptiest = 0.15;
/** and the bad side is more than a stray picture, and not most of everything. */
const leastBad = 0.005,
  mostBad = 0.6;

/**
 * Puts every limit where this footage has a gap between good and bad: the emptiest place of its histogram between the
 * two classes that Otsu's threshold parts best (Otsu 1979, *A Threshold Selection Method from Gray-Level Histograms*),
 * within bounds that make sense for the reading. Where there is no gap a limit stays.
 */
export function suggestLimits(
  footage: readonly Footage[],
  limits: Limits,
): { limits: Limits; found: SuggestedLimit[] } {
  const next = { ...limits };
  const found = sought.map((each): SuggestedLimit => {
    const counts = new Float64Array(bins);
    for (const file of footage)
      for (const value of each.values(file))
        counts[Math.min(bins - 1, Math.max(0, Math.floor((value / each.scale) * bins)))]!++;
    const gap = gapIn(
      counts,
      Math.round((each.from / each.scale) * bins),
      Math.round((each.to / each.scale) * bins),
      each.badIs,
    );
    if (!gap) return { limit: each.limit, at: null, bad: 0 };
    const at = Math.round((gap.at / bins) * each.scale * 1000) / 1000;
    next[each.limit] = at;
    return { limit: each.limit, at, bad: gap.bad };
  });
  return { limits: next, found };
}

function gapIn(
  counts: Float64Array,
  from: number,
  to: number,
  badIs: Sought['badIs'],
): { at: number; bad: number } | null {
  const total = counts.reduce((sum, count) => sum + count, 0);
  if (total === 0) return null;
  let best: { at: number; bad: number; spread: number } | null = null;
  let below = 0;
  let belowSum = 0;
  const sum = counts.reduce((all, count, bin) => all + count * bin, 0);
  for (let at = 1; at < bins; at++) {
    below += counts[at - 1]!;
    belowSum += counts[at - 1]! * (at - 1);
    if (at < from || at > to || below === 0 || below === total) continue;
    const above = total - below;
    const bad = (badIs === 'under' ? below : above) / total;
    if (bad < leastBad || bad > mostBad) continue;
    const spread = below * above * ((sum - belowSum) / above - belowSum / below) ** 2;
    // A flat valley gives the same value all along; its middle is wanted.
    if (!best || spread > best.spread * (1 + 1e-9)) best = { at, bad, spread };
  }
  if (!best) return null;
  const low = lowestNear(counts, best.at, from, to);
  const fullest = (part: Float64Array) => part.reduce((most, count) => Math.max(most, count), 0);
  const lower = Math.min(fullest(counts.subarray(0, low.from)), fullest(counts.subarray(low.to)));
  if (low.count > emptiest * lower || low.to - low.from < 2) return null;
  const at = Math.round((low.from + low.to) / 2);
  const under = counts.subarray(0, at).reduce((all, count) => all + count, 0) / total;
  const bad = badIs === 'under' ? under : 1 - under;
  return bad < leastBad || bad > mostBad ? null : { at, bad };
}

/** The widest run of the emptiest bins around a place. */
function lowestNear(counts: Float64Array, at: number, from: number, to: number) {
  let lowest = at;
  for (let bin = Math.max(from, at - 12); bin <= Math.min(to, at + 12); bin++)
    if (counts[bin]! < counts[lowest]!) lowest = bin;
  const count = counts[lowest]!;
  const isLow = (bin: number) => bin >= 0 && bin < bins && counts[bin]! <= count * 1.5 + 1;
  let first = lowest;
  let last = lowest;
  while (isLow(first - 1)) first--;
  while (isLow(last + 1)) last++;
  return { from: first, to: last + 1, count };
}
