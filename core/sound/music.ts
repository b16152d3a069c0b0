import { clamp, gaussianSmooth, runsAbove } from '#core/signal';
import type { Range } from '#core/time';

/**
 * How likely there is music, 0 to 1, once a second: a steady pulse (peak of the onset strength's autocorrelation
 * between 50 and 200 beats a minute over eight seconds; "pulse clarity", Lartillot and others 2008), tones rather than
 * noise, and hardly a gap in the level.
 * @param onset 50 a second
 * @param tonal 10 a second, 0 to 1
 * @param level dBFS, 50 a second
 */
export function musicLikelihood(
  onset: ArrayLike<number>,
  tonal: ArrayLike<number>,
  level: ArrayLike<number>,
): Float32Array {
  const hz = 50;
  const window = 8 * hz;
  const seconds = Math.floor(onset.length / hz);
  const out = new Float32Array(seconds);
  const strength = gaussianSmooth(onset, 1.2);
  for (let second = 0; second < seconds; second++) {
    const from = Math.max(0, Math.min(onset.length - window, second * hz + hz / 2 - window / 2));
    const to = Math.min(onset.length, from + window);
    const clarity = pulseClarity(strength.subarray(from, to));
    let tones = 0;
    for (let index = Math.floor(from / 5); index < Math.floor(to / 5); index++) tones += tonal[index] ?? 0;
    tones /= Math.max(1, (to - from) / 5);
    let loudest = -90;
    for (let index = from; index < to; index++) loudest = Math.max(loudest, level[index] ?? -90);
    let full = 0;
    for (let index = from; index < to; index++) if ((level[index] ?? -90) > loudest - 26) full++;
    const gapless = clamp((full / (to - from) - 0.75) / 0.2);
    out[second] = loudest < -55 ? 0 : clamp((clarity - 0.12) / 0.25) * gapless * clamp((tones - 0.55) / 0.3);
  }
  return out;
}

function pulseClarity(values: Float32Array): number {
  const count = values.length;
  const mean = values.reduce((sum, value) => sum + value, 0) / Math.max(1, count);
  let power = 0;
  for (const value of values) power += (value - mean) ** 2;
  if (power === 0) return 0;
  let best = 0;
  for (let lag = 15; lag <= 60 && lag < count / 2; lag++) {
    let sum = 0;
    for (let index = lag; index < count; index++) sum += (values[index]! - mean) * (values[index - lag]! - mean);
    best = Math.max(best, (sum / power) * (count / (count - lag)));
  }
  return best;
}

/** Stretches of at least four seconds that are likely music. */
export const musicRuns = (likelihood: ArrayLike<number>): Range[] =>
  runsAbove(likelihood, 1, { enter: 0.5, stay: 0.25, minSeconds: 4, bridgeSeconds: 3 });
