import { onsetHz } from './novelty';
import { rigidPulses } from './rigid';
import { near, onsetPeaks, strokesOf, sure } from './strokes';
import { tempoCourse, tempogram, tempoScale, tempoWeight } from './tempo';
import { onsetNear, trackBeats } from './track';

/** One way to count the music: half beats all along it, and how well they explain what is heard. */
export interface Rival {
  bpm: number;
  /** Every half beat, in samples of the onset strength. */
  pulses: number[];
  /** Share of the half beats that hear something, times the share of the onsets that lie on one, times how usual the tempo is; 0 to 1. */
  explains: number;
  /** What counts are ranked by: the same, and more for even ones and for those with clear bars. */
  score: number;
}

/** Against the tempo that pulses most: what trackers lock on by mistake, octaves and the ratios of two to three. */
const factors = [1, 2, 4, 1 / 2, 3 / 2, 2 / 3, 3, 1 / 3, 4 / 3, 3 / 4];
/** What a jump of the tempo costs; see `tempoCourse`. */
const steadyJump = 25,
  freeJump = 8;
/** How much alternating strokes speak against a count. */
const alternation = 0.3;
/**
 * Even pulses cannot hug strokes that lie anywhere, as free ones do, and explain less of them for that. They may, where
 * in at least half of the music no other even pulses would explain more.
 */
const rigidBonus = 1.35,
  keptEnough = 0.5;
const slowestBeat = 50,
  fastestBeat = 220;

/**
 * All ways to count the music, best first. Each is tracked over the whole of it in half beats, and weighed by its
 * whole grid: a grid at two thirds of the tempo misses every other onset and leaves half of them between its pulses,
 * even where a few seconds would not show it. Half beats, not beats, so that loud strokes off the beat cannot draw the
 * grid over by a half; which of them are the beats is decided later, from the bars.
 * @param onset evened onset strength
 * @param strokes the same of the bass and the middle, where drums are
 */
export function findRivals(onset: Float32Array, strokes: Float32Array): Rival[] {
  const rows = tempogram(onset);
  // Once for music that keeps its tempo, once for music that changes it; the grids tell which is right.
  const [steady, free] = [steadyJump, freeJump].map((jump) =>
    tempoCourse(rows, jump).map((index) => tempoScale[index]!),
  );
  const courses = steady!.every((bpm, second) => bpm === free![second]) ? [steady!] : [steady!, free!];
  const peaks = onsetPeaks(onset);
  const clear = strokesOf(peaks, onset);
  const heard: Heard = { onset, strokes, peaks, all: peaks.reduce((sum, at) => sum + onset[at]!, 0) };
  const rivals: Rival[] = [];
  for (const course of courses)
    for (const factor of factors) {
      const tempi = course.map((bpm) => bpm * factor);
      const bpm = middle(tempi);
      if (bpm < slowestBeat || bpm > fastestBeat) continue;
      const periodAt = (sample: number) =>
        (30 * onsetHz) / tempi[Math.min(tempi.length - 1, Math.floor(sample / onsetHz))]!;
      const free = trackBeats(onset, periodAt);
      if (free.length < 4) continue;
      const explains = worthOf(free, bpm, heard);
      rivals.push({ bpm, pulses: free, explains, score: explains });
      const even = rigidPulses(clear, periodAt, onset.length);
      if (!even || even.pulses.length < 4) continue;
      const { pulses: rigid, share } = even;
      const own = (30 * onsetHz) / middle(rigid.slice(1).map((at, index) => at - rigid[index]!));
      if (own < slowestBeat || own > fastestBeat) continue;
      const evenly = worthOf(rigid, own, heard);
      rivals.push({
        bpm: own,
        pulses: rigid,
        explains: evenly,
        score: (share > keptEnough ? rigidBonus : 1) * evenly,
      });
    }
  const sorted = rivals.sort((a, b) => b.score - a.score);
  // Of two at the same tempo the better one stays.
  return sorted.filter(
    (rival, index) => !sorted.slice(0, index).some((other) => Math.abs(Math.log2(other.bpm / rival.bpm)) < 0.04),
  );
}

const middle = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

interface Heard {
  onset: Float32Array;
  strokes: Float32Array;
  peaks: readonly number[];
  /** Sum of the strengths of all peaks. */
  all: number;
}

/** How well half beats explain what is heard; see `Rival.score`. */
function worthOf(pulses: readonly number[], bpm: number, { onset, strokes, peaks, all }: Heard): number {
  if (all === 0) return 0;
  const hears = pulses.map((at) => Math.min(sure, onsetNear(onset, at, near - 1)) / sure);
  // Half beats may be empty, beats should not be.
  const parities = [0, 1].map((parity) => mean(hears.filter((_, index) => index % 2 === parity)));
  const heard = 0.35 * mean(hears) + 0.65 * Math.max(...parities);
  // Where only every other beat has a drum, the beats are twice as long.
  const beats = pulses.filter((_, index) => index % 2 === (parities[1]! > parities[0]! ? 1 : 0));
  const [odd, even] = [0, 1].map((parity) =>
    mean(beats.filter((_, index) => index % 2 === parity).map((at) => onsetNear(strokes, at, near - 1))),
  );
  const alternate = Math.abs(odd! - even!) / (odd! + even! + 1e-9);
  let explained = 0,
    next = 0;
  for (const at of peaks) {
    while (next < pulses.length && pulses[next]! <= at) next++;
    const distance = Math.min(at - (pulses[next - 1] ?? -Infinity), (pulses[next] ?? Infinity) - at);
    if (distance <= near) explained += onset[at]!;
  }
  return (
    heard * (explained / all) * (bpm / 2 < slowestBeat + 5 ? 1 : 1 - alternate * alternation) * tempoWeight(bpm) ** 0.4
  );
}
