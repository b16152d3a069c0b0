import { runsOf } from '#core/readings';
import { gaussianSmooth } from '#core/signal';
import { lastBefore, type Range } from '#core/time';
import { breath } from './talk';
import type { Footage } from './types';

/**
 * Times at which a piece may begin or end: scene boundaries, both ends of a shut-out stretch, pauses of speech, and
 * quiet points of motion where nobody speaks. Never inside a speech run, so never inside a word.
 * @returns sorted, at least 0.3 s apart, beginning with 0 and ending with the duration
 */
export function cutPoints(footage: Footage, shut: readonly Range[]): number[] {
  const { durationSeconds: duration, traces, hz } = footage;
  if (footage.whole) return [0, duration];
  const speech = runsOf(footage.runs, 'speech');
  const points: CutPoint[] = [];
  const add = (time: number, weight: number) => {
    if (time >= 0 && time <= duration && isBetweenWords(time, speech)) points.push({ time, weight });
  };
  add(0, 3);
  add(duration, 3);
  for (const scene of runsOf(footage.runs, 'scene')) add(scene.start, 2);
  for (const range of shut) {
    add(range.start, 2);
    add(range.end, 2);
  }
  for (const [index, run] of speech.entries()) {
    const before = index ? run.start - speech[index - 1]!.end : run.start;
    const after = (speech[index + 1]?.start ?? duration) - run.end;
    if (before > 0.02) add(run.start - Math.min(breath, before / 2), 1);
    if (after > 0.02) add(run.end + Math.min(breath, after / 2), 1);
  }
  const quiet = gaussianSmooth(
    traces.motion.map((value, index) => value + traces.moves[index]! * 0.5),
    hz * 0.5,
  );
  for (let index = 1; index + 1 < quiet.length; index++) {
    const minimum = quiet[index]! <= quiet[index - 1]! && quiet[index]! < quiet[index + 1]!;
    if (minimum || (index % Math.round(hz * 2) === 0 && quiet[index]! < 0.05)) add(index / hz, 0);
  }
  return thinOut(points.sort((a, b) => a.time - b.time));
}

interface CutPoint {
  time: number;
  /** 0 quiet motion, 1 speech pause, 2 scene or flaw, 3 end of the file. */
  weight: number;
}

/** Of points closer than 0.3 s the weightier stays. */
function thinOut(points: readonly CutPoint[]): number[] {
  const kept: CutPoint[] = [];
  for (const point of points) {
    while (kept.length && point.time - kept.at(-1)!.time < 0.3 && kept.at(-1)!.weight < point.weight) kept.pop();
    const last = kept.at(-1);
    if (!last || point.time - last.time >= 0.3) kept.push(point);
  }
  return kept.map((point) => point.time);
}

/** Cuts of the camera may fall into speech (the file is made so); a choice may not. */
function isBetweenWords(point: number, speech: readonly Range[]): boolean {
  const run = speech[lastBefore(speech, point)];
  return !run || point <= run.start || point >= run.end;
}
