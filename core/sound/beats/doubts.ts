import { onsetHz } from './novelty';
import type { Rival } from './rivals';
import { near, onsetPeaks, sure } from './strokes';
import { onsetNear } from './track';

/** A stretch of the music in which its beats may be wrong. */
export interface Doubt {
  start: number;
  end: number;
  /** Tempo of a count that explains the stretch better, in beats a minute; null when none does. */
  tempo: number | null;
  /** Other ways to count the stretch, those that explain it best first; indices of `MusicHearing.rivals`. */
  rivals: number[];
}
/** A doubt with its rivals as they were found. */
export type FoundDoubt = Omit<Doubt, 'rivals'> & { rivals: Rival[] };

/** Grids are compared over so many seconds, once a second. */
const windowSeconds = 8;
/** By so much a grid has to explain a stretch better than every other, and at least so well. */
const clearly = 1.15;
const least = 0.12;
/** Shorter stretches are a fill or a rest, not another count. */
const shortestSeconds = 3;
/** Onset strength under which nothing is heard that could lie on a beat. */
const silent = 0.05;
/** So many other counts are offered for a stretch, if they explain at least this share of what the best of them does. */
const mostRivals = 3,
  worthOffering = 0.4;
/** Two counts are the same in a stretch when so many of the half beats of one lie on those of the other. */
const sameShare = 0.8;

/** Whether one count is the other with beats halved or doubled: that is a matter of taste, and the cuts fall well either way. */
const isOctave = (a: number, b: number): boolean => {
  const octaves = Math.log2(a / b);
  return Math.abs(octaves - Math.round(octaves)) < 0.06;
};

/**
 * Where the best count of a piece of music explains less than a rival, or next to nothing: the measure by which the
 * counts were ranked over the whole piece, taken piece by piece.
 * @param found counts, best first; see `findRivals`
 * @param onset evened onset strength, `onsetHz` a second
 */
export function findDoubts(found: readonly Rival[], onset: Float32Array): FoundDoubt[] {
  const [best, ...others] = found;
  if (!best) return [];
  const peaks = onsetPeaks(onset);
  const seconds = Math.floor(onset.length / onsetHz);
  const doubts: { start: number; end: number; better: Rival | null }[] = [];
  for (let second = 0; second < seconds; second++) {
    const middle = Math.min(
      Math.max(second + 0.5, windowSeconds / 2),
      Math.max(windowSeconds / 2, seconds - windowSeconds / 2),
    );
    const [from, to] = [(middle - windowSeconds / 2) * onsetHz, (middle + windowSeconds / 2) * onsetHz];
    const heard = peaks.filter((at) => at >= from && at < to);
    const all = heard.reduce((sum, at) => sum + onset[at]!, 0);
    if (all / (windowSeconds * onsetHz) < silent / onsetHz) continue;
    const own = explains(best.pulses, heard, all, onset, from, to);
    const tempo = tempoIn(best, from / onsetHz, to / onsetHz);
    const [rival, worth] = others.reduce<[Rival | null, number]>(
      (most, each) => {
        // Over a song that changes its tempo two counts may be one in places.
        if (isOctave(tempoIn(each, from / onsetHz, to / onsetHz), tempo)) return most;
        const value = explains(each.pulses, heard, all, onset, from, to);
        return value > most[1] ? [each, value] : most;
      },
      [null, 0],
    );
    if (own >= least && own >= worth * clearly) continue;
    const better = worth > own * clearly && worth > 2 * least ? rival : null;
    const last = doubts.at(-1);
    if (last && last.end === second)
      doubts[doubts.length - 1] = { ...last, end: second + 1, better: last.better ?? better };
    else doubts.push({ start: second, end: second + 1, better });
  }
  return doubts
    .filter(({ start, end }) => end - start >= shortestSeconds)
    .map(({ start, end, better }) => {
      const tempo = better && tempoIn(better, start, end);
      return { start, end, tempo, rivals: rivalsIn(best, others, onset, peaks, { start, end }) };
    });
}

/** Other ways to count a stretch, best first; those that are the same there as the count that is taken, or as a better one, are left out. */
function rivalsIn(
  best: Rival,
  others: readonly Rival[],
  onset: Float32Array,
  peaks: readonly number[],
  { start, end }: Pick<Doubt, 'start' | 'end'>,
): Rival[] {
  const [from, to] = [start * onsetHz, end * onsetHz];
  const heard = peaks.filter((at) => at >= from && at < to);
  const all = heard.reduce((sum, at) => sum + onset[at]!, 0);
  const ranked = others
    .map((rival) => ({ rival, worth: explains(rival.pulses, heard, all, onset, from, to) }))
    .sort((a, b) => b.worth - a.worth);
  const offered: Rival[] = [];
  for (const { rival, worth } of ranked) {
    if (offered.length === mostRivals || worth <= worthOffering * ranked[0]!.worth) break;
    if (![best, ...offered].some((other) => isSameIn(rival, other, from, to))) offered.push(rival);
  }
  return offered;
}

function isSameIn(a: Rival, b: Rival, from: number, to: number): boolean {
  const [own, other] = [a, b].map(({ pulses }) => pulses.filter((at) => at >= from && at < to)) as [number[], number[]];
  if (Math.abs(own.length - other.length) > 0.1 * own.length) return false;
  const met = own.filter((at) => other.some((pulse) => Math.abs(pulse - at) <= near)).length;
  return met >= sameShare * own.length;
}

/** Tempo of a count within a stretch, in beats a minute; its middle one over the whole where the stretch holds no two beats. */
function tempoIn({ bpm, pulses }: Rival, start: number, end: number): number {
  const own = pulses.filter((at) => at >= start * onsetHz && at < end * onsetHz);
  const steps = own
    .slice(1)
    .map((at, index) => at - own[index]!)
    .sort((a, b) => a - b);
  const step = steps[steps.length >> 1];
  return step === undefined ? bpm : (30 * onsetHz) / step;
}

/** Share of a grid's half beats that hear something, times the share of the onsets that lie on one, within a window. */
function explains(
  pulses: readonly number[],
  heard: readonly number[],
  all: number,
  onset: Float32Array,
  from: number,
  to: number,
): number {
  const own = pulses.filter((at) => at >= from && at < to);
  const strengths = own.map((at) => Math.min(sure, onsetNear(onset, at, near - 1)) / sure);
  const mean = (list: readonly number[]) =>
    list.length ? list.reduce((sum, value) => sum + value, 0) / list.length : 0;
  const parities = [0, 1].map((parity) => mean(strengths.filter((_, index) => index % 2 === parity)));
  const hears = 0.35 * mean(strengths) + 0.65 * Math.max(...parities);
  const explained = heard
    .filter((at) => own.some((pulse) => Math.abs(pulse - at) <= near))
    .reduce((sum, at) => sum + onset[at]!, 0);
  return all === 0 ? 0 : hears * (explained / all);
}
