/** A peak of the onset strength: where it is, in samples of it, and what it counts for, 0 to 1. */
export interface Stroke {
  at: number;
  weight: number;
}

/** An onset this near to a pulse lies on it, in samples (25 ms). */
export const near = 5;
/** Onset strength at which a pulse surely hears something, in units of its RMS. */
export const sure = 3;

/** The peaks of an onset strength as strokes, none counting for more than a sure one. */
export const strokesOf = (peaks: readonly number[], onset: Float32Array): Stroke[] =>
  peaks.map((at) => ({ at, weight: Math.min(sure, onset[at]!) / sure }));

/** Samples at which the onset strength peaks clearly. */
export function onsetPeaks(onset: Float32Array, over = 0.8): number[] {
  const peaks: number[] = [];
  for (let at = 2; at + 2 < onset.length; at++) {
    const value = onset[at]!;
    if (
      value > over &&
      value >= onset[at - 1]! &&
      value > onset[at + 1]! &&
      value >= onset[at - 2]! &&
      value >= onset[at + 2]!
    )
      peaks.push(at);
  }
  return peaks;
}
