import { runsOf } from '#core/readings';
import { gaussianSmooth } from '#core/signal';
import type { Range } from '#core/time';
import type { Footage } from './types';

/** Breath left before the first and after the last word of a piece, in seconds. Common practice, no source. */
const breath = 0.18;

/**
 * Times at which a piece may begin or end: scene boundaries, both ends of a shut-out stretch, pauses of speech, and
 * quiet points of motion where nobody speaks. Never inside a speech run, so never inside a word.
 * @returns sorted, at least 0.3 s apart, beginning with 0 and ending with the duration
 */
export function cutPoints(footage: Footage, shut: readonly Range[]): number[] {
  const { durationSeconds: duration, traces, hz } = footage;
  const speech = runsOf(footage.runs, 'speech');
  const strong = new Set([0, duration]);
  for (const scene of runsOf(footage.runs, 'scene')) strong.add(scene.start);
  for (const range of shut) strong.add(range.start).add(range.end);
  const points = [...strong].filter((point) => point >= 0 && point <= duration);
  for (const [index, run] of speech.entries()) {
    const before = index ? run.start - speech[index - 1]!.end : run.start;
    const after = (speech[index + 1]?.start ?? duration) - run.end;
    if (before > 0.02) points.push(run.start - Math.min(breath, before / 2));
    if (after > 0.02) points.push(run.end + Math.min(breath, after / 2));
  }
  const quiet = gaussianSmooth(traces.motion.map((value, index) => value + traces.moves[index]! * 0.5), hz * 0.5);
  for (let index = 1; index + 1 < quiet.length; index++) {
    const minimum = quiet[index]! <= quiet[index - 1]! && quiet[index]! < quiet[index + 1]!;
    if (minimum || (index % Math.round(hz * 2) === 0 && quiet[index]! < 0.05)) points.push(index / hz);
  }
  const sorted = points.filter((point) => isBetweenWords(point, speech)).sort((a, b) => a - b);
  const spaced: number[] = [];
  for (const point of sorted) {
    const last = spaced.at(-1);
    if (last === undefined || point - last >= 0.3) spaced.push(point);
    else if (strong.has(point) && !strong.has(last)) spaced[spaced.length - 1] = point;
  }
  if (spaced.at(-1) !== duration && isBetweenWords(duration, speech)) spaced.push(duration);
  return spaced;
}

/** Cuts of the camera may fall into speech (the file is made so); a choice may not. */
function isBetweenWords(point: number, speech: readonly Range[]): boolean {
  let low = 0;
  let high = speech.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (speech[middle]!.end <= point) low = middle + 1;
    else high = middle;
  }
  const run = speech[low];
  return !run || point <= run.start || point >= run.end;
}
