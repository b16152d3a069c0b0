import { runsOf } from '#core/readings';
import { percentile } from '#core/signal';
import { lengthOf, type Range } from '#core/time';
import type { Footage } from './types';

/** Breath left before the first and after the last word of a piece, in seconds. Common practice, no source. */
export const breath = 0.18;
/** A pause shorter than this lies inside a sentence; a longer one ends it. Common practice, no source. */
const pauseInside = 0.5;
/** How far before its detected start a quiet beginning of a sentence is looked for, in seconds. */
const quietStart = 0.5;

/**
 * What is said without a pause, in the order of time: speech runs with short pauses between them are one sentence. What
 * is longer than a piece may be is parted at its longest pauses, never inside a run.
 */
export function sentencesOf(footage: Footage, longest: number): Range[] {
  const runs = withQuietStarts(footage, runsOf(footage.runs, 'speech'));
  const out: Range[] = [];
  for (let from = 0; from < runs.length;) {
    let to = from + 1;
    while (to < runs.length && runs[to]!.start - runs[to - 1]!.end < pauseInside) to++;
    part(runs, from, to, longest, out);
    from = to;
  }
  return out;
}

function part(runs: readonly Range[], from: number, to: number, longest: number, out: Range[]): void {
  const whole = { start: runs[from]!.start, end: runs[to - 1]!.end };
  if (to - from === 1 || lengthOf(whole) <= longest) {
    out.push(whole);
    return;
  }
  let at = from + 1;
  const pause = (index: number) => runs[index]!.start - runs[index - 1]!.end;
  for (let index = from + 2; index < to; index++) if (pause(index) > pause(at)) at = index;
  part(runs, from, at, longest, out);
  part(runs, at, to, longest, out);
}

/** A voice that begins quietly is heard late by a detector: a run begins where the sound rises out of the background. */
function withQuietStarts({ traces: { wave }, hz }: Footage, runs: readonly Range[]): Range[] {
  const background = 3 * percentile(wave, 0.2);
  return runs.map((run, index) => {
    const least = Math.max((runs[index - 1]?.end ?? 0) + 0.1, run.start - quietStart);
    let at = Math.floor(run.start * hz);
    const usual = 0.15 * percentile(wave.subarray(at, Math.ceil(run.end * hz)), 0.5);
    while ((at - 1) / hz >= least && wave[at - 1]! > Math.max(background, usual)) at--;
    return { start: Math.min(run.start, Math.max(least, at / hz)), end: run.end };
  });
}

/** Sentences with a breath at both ends, or half the pause where that is shorter; they never meet another sentence. */
export const breathed = (sentences: readonly Range[], durationSeconds: number): Range[] =>
  sentences.map(({ start, end }, index) => {
    const before = start - (sentences[index - 1]?.end ?? -start);
    const after = (sentences[index + 1]?.start ?? 2 * durationSeconds - end) - end;
    return { start: start - Math.min(breath, before / 2), end: end + Math.min(breath, after / 2) };
  });
