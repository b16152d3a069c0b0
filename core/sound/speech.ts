import type { Range } from '#core/time';

/** What counts as speech; probabilities 0 to 1, times in seconds. */
export interface SpeechRule {
  /** Speech begins at this probability... */
  enter: number;
  /** ...and goes on until it falls below this. */
  stay: number;
  minSpeechSeconds: number;
  /** Pauses shorter than this do not end a run. */
  minPauseSeconds: number;
  /** Added at both sides, so that a breath survives. */
  padSeconds: number;
}

/** The defaults published with the Silero voice activity model (threshold 0.5, 0.35 to leave, 250 ms, 100 ms, 30 ms). */
export const speechDefaults: SpeechRule = {
  enter: 0.5,
  stay: 0.35,
  minSpeechSeconds: 0.25,
  minPauseSeconds: 0.1,
  padSeconds: 0.03,
};

/**
 * Speech runs from voice probabilities.
 * @param probabilities one value, 0 to 1, per hop of `1 / hz` seconds
 * @param duration end of the material in seconds; runs are kept inside it
 */
export function speechRuns(
  probabilities: ArrayLike<number>,
  hz: number,
  duration: number,
  rule: SpeechRule = speechDefaults,
): Range[] {
  const runs: Range[] = [];
  let start = -1;
  let quietFrom = -1;
  const close = (end: number) => {
    if (end - start >= rule.minSpeechSeconds - 1e-9) runs.push({ start, end });
    start = -1;
    quietFrom = -1;
  };
  for (let index = 0; index < probabilities.length; index++) {
    const p = probabilities[index]!;
    const time = index / hz;
    if (p >= rule.enter) {
      quietFrom = -1;
      if (start < 0) start = time;
    } else if (start >= 0 && p < rule.stay) {
      if (quietFrom < 0) quietFrom = time;
      if (time - quietFrom >= rule.minPauseSeconds - 1e-9) close(quietFrom);
    }
  }
  if (start >= 0) close(quietFrom >= 0 ? quietFrom : probabilities.length / hz);
  for (let index = 0; index < runs.length; index++) {
    const run = runs[index]!;
    const next = runs[index + 1];
    const room = next ? (next.start - run.end) / 2 : Infinity;
    run.end = Math.min(duration, run.end + Math.min(rule.padSeconds, room));
    if (next) next.start -= Math.min(rule.padSeconds, room);
    if (index === 0) run.start = Math.max(0, run.start - rule.padSeconds);
  }
  return runs;
}
