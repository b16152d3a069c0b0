import { clamp, slidingRms } from '#core/signal';
import { onsetHz } from './novelty';

/** Tempi that are looked for, in beats a minute. */
const slowest = 45;
const fastest = 230;
/** Steps of the tempo scale: two per cent each. */
const stepRatio = 1.02;
const halfStep = Math.sqrt(stepRatio);
/** Tempi that are looked at, in beats a minute, evenly apart in their logarithm. */
export const tempoScale: readonly number[] = Array.from(
  { length: Math.floor(Math.log(fastest / slowest) / Math.log(stepRatio)) + 1 },
  (_, index) => slowest * stepRatio ** index,
);

/** Most tempi that listeners tap lie around two beats a second (Moelants 2002; Parncutt 1994). Spread in octaves. */
const usualBpm = 120,
  usualSpread = 1.1;
/** How usual a tempo is, 0 to 1: a Gaussian over its logarithm. */
export const tempoWeight = (bpm: number): number => Math.exp(-0.5 * (Math.log2(bpm / usualBpm) / usualSpread) ** 2);

/**
 * Onset strength without its slow changes: the mean of ±0.4 s is taken off and what is left divided by its RMS over
 * ±4 s, so that a quiet break counts as much as a loud chorus.
 */
export function evenedOnset(onset: Float32Array): Float32Array {
  const half = Math.round(0.4 * onsetHz);
  const sums = new Float64Array(onset.length + 1);
  for (let index = 0; index < onset.length; index++) sums[index + 1] = sums[index]! + onset[index]!;
  const out = new Float32Array(onset.length);
  for (let index = 0; index < onset.length; index++) {
    const from = Math.max(0, index - half),
      to = Math.min(onset.length, index + half + 1);
    out[index] = Math.max(0, onset[index]! - (sums[to]! - sums[from]!) / (to - from));
  }
  const spread = slidingRms(out, 4 * onsetHz);
  let floor = 0;
  for (const value of spread) floor = Math.max(floor, value);
  // What hardly rises at all is no stroke, however even the rest.
  floor = Math.max(floor * 0.08, leastRise);
  for (let index = 0; index < out.length; index++) out[index]! /= Math.max(floor, spread[index]!, 1e-6);
  return out;
}

/** Rise of the logarithmic spectrum, summed over all bands, under which nothing is struck; a clear stroke has 5 and more. */
const leastRise = 1.5;

const windowSeconds = 8;
const stepSeconds = 1;

/**
 * How strongly each tempo of `tempoScale` pulses, once a second: the autocorrelation of eight seconds of onset strength
 * at one, two, three and four beats (a tempogram; Grosche & Müller 2011), 0 to about 1.
 * @returns one row a second
 */
export function tempogram(onset: Float32Array): Float32Array[] {
  // At 100 Hz: enough for periods, four times faster.
  const hz = onsetHz / 2;
  const half = Float32Array.from(
    { length: onset.length >> 1 },
    (_, index) => (onset[2 * index]! + onset[2 * index + 1]!) / 2,
  );
  const window = windowSeconds * hz;
  const longest = Math.ceil((60 / slowest) * 4 * hz) + 2;
  const rows: Float32Array[] = [];
  const count = Math.max(1, Math.ceil(half.length / hz / stepSeconds));
  for (let row = 0; row < count; row++) {
    const from = Math.round(clamp(row * stepSeconds * hz + hz / 2 - window / 2, 0, Math.max(0, half.length - window)));
    const part = half.subarray(from, Math.min(half.length, from + window));
    let mean = 0;
    for (const value of part) mean += value / part.length;
    let power = 1e-9;
    for (const value of part) power += (value - mean) ** 2;
    const lags = Math.min(longest, part.length - 1);
    const acf = new Float32Array(longest + 1);
    for (let lag = Math.floor((60 / fastest) * hz); lag <= lags; lag++) {
      let sum = 0;
      for (let index = lag; index < part.length; index++) sum += (part[index]! - mean) * (part[index - lag]! - mean);
      acf[lag] = (sum / power) * (part.length / Math.max(part.length / 4, part.length - lag));
    }
    // The best within half a step of the scale: a tempo between two steps counts as much as one on a step.
    const at = (lag: number) => {
      let best = 0;
      for (let near = Math.floor(lag / halfStep); near <= Math.min(longest, Math.ceil(lag * halfStep)); near++)
        best = Math.max(best, acf[near]!);
      return best;
    };
    rows.push(
      Float32Array.from(tempoScale, (bpm) => {
        const lag = (60 / bpm) * hz;
        let sum = 0,
          weights = 0;
        for (let beat = 1; beat <= 4; beat++) {
          if (lag * beat > lags) break;
          const weight = 1 / Math.sqrt(beat);
          sum += weight * at(lag * beat);
          weights += weight;
        }
        return weights > 0 ? Math.max(0, sum / weights) : 0;
      }),
    );
  }
  return rows;
}

/**
 * The likeliest course of the tempo (Viterbi): strong pulses, few and small changes. A change by a step costs little,
 * a jump much, so that a tempo may drift, and change for good, but does not flicker between double and half.
 * @param jumpCost in units of a pulse of strength 1/4 over a second
 * @returns an index of `tempoScale` a row
 */
export function tempoCourse(rows: readonly Float32Array[], jumpCost: number): number[] {
  const tempi = tempoScale.length;
  const priors = tempoScale.map((bpm) => Math.log(tempoWeight(bpm) + 1e-6));
  const stepCost = 0.25,
    reach = 4;
  let scores = Float64Array.from({ length: tempi }, (_, tempo) => priors[tempo]! + emission(rows[0]![tempo]!));
  const from: Int16Array[] = [];
  for (let row = 1; row < rows.length; row++) {
    const next = new Float64Array(tempi);
    const back = new Int16Array(tempi);
    let best = 0;
    for (let tempo = 1; tempo < tempi; tempo++) if (scores[tempo]! > scores[best]!) best = tempo;
    for (let tempo = 0; tempo < tempi; tempo++) {
      let score = scores[best]! - jumpCost,
        via = best;
      for (let other = Math.max(0, tempo - reach); other <= Math.min(tempi - 1, tempo + reach); other++) {
        const value = scores[other]! - stepCost * Math.abs(tempo - other);
        if (value <= score) continue;
        score = value;
        via = other;
      }
      next[tempo] = score + priors[tempo]! * 0.1 + emission(rows[row]![tempo]!);
      back[tempo] = via;
    }
    scores = next;
    from.push(back);
  }
  let at = scores.indexOf(Math.max(...scores));
  const course = [at];
  for (let row = from.length - 1; row >= 0; row--) course.unshift((at = from[row]![at]!));
  return course;
}
const emission = (pulse: number) => 4 * pulse;
