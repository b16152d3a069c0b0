import { PowerSpectrum, percentile, powerOfTwo, signalOf, spectrumOf } from '#core/signal';

/** Where one recording lies in another. */
export interface RecordingOffset {
  /** Time in the reference at which the other recording's first sample belongs, in seconds; negative when it started earlier. */
  offsetSeconds: number;
  /** How much faster the other's clock runs than the reference's, in parts per million; 0 when there is too little to tell. */
  driftPpm: number;
  /** 0 to 1: share of the compared stretches that agree with the answer. Under 0.3 it is a guess. */
  confidence: number;
}

/** Samples a second at which recordings are compared. */
export const offsetSampleRate = 8000;
const featureHz = 100;
const bands = [
  [3, 6],
  [6, 12],
  [12, 24],
  [24, 48],
  [48, 100],
] as const;
/** Clocks of consumer recorders differ by less than this. Common practice, no source. */
const widestDrift = 150e-6;

/**
 * Where one recording lies in another, over their whole length. First the loudness changes of five bands are
 * cross-correlated (they survive other microphones and rooms), to a hundredth of a second; then windows of eight
 * seconds all along are compared with the phase transform (GCC-PHAT, Knapp & Carter 1976), and a straight line through
 * their answers (median of slopes, Theil 1950 and Sen 1968) gives offset and clock drift.
 * @param reference mono at `offsetSampleRate`
 * @param other mono at `offsetSampleRate`
 */
export function findOffset(reference: Float32Array, other: Float32Array): RecordingOffset {
  if (Math.min(reference.length, other.length) < offsetSampleRate)
    return { offsetSeconds: 0, driftPpm: 0, confidence: 0 };
  const coarse = coarseLag(changes(reference), changes(other)) / featureHz;
  const points = compareWindows(reference, other, coarse);
  if (points.length === 0) return { offsetSeconds: coarse, driftPpm: 0, confidence: 0 };
  const { at, slope } = fitLine(points);
  const agreeing = points.filter((point) => Math.abs(point.lag - (at + slope * point.time)) < 0.004).length;
  return { offsetSeconds: at, driftPpm: -slope * 1e6, confidence: agreeing / points.length };
}

/** Rises of the logarithmic energy per band, 100 a second, evened out to the same spread. */
function changes(samples: Float32Array): Float32Array[] {
  const hop = offsetSampleRate / featureHz;
  const count = Math.floor(samples.length / hop);
  const spectrum = new PowerSpectrum(256);
  const out = bands.map(() => new Float32Array(count));
  const last = new Float64Array(bands.length);
  for (let frame = 0; frame < count; frame++) {
    const power = spectrum.at(samples, frame * hop - 128);
    for (const [band, [from, to]] of bands.entries()) {
      let energy = 1e-6;
      for (let bin = from; bin < to; bin++) energy += power[bin]!;
      const level = Math.log(energy);
      out[band]![frame] = frame ? Math.max(-1, Math.min(4, level - last[band]!)) : 0;
      last[band] = level;
    }
  }
  return out.map((values) => {
    const mean = values.reduce((sum, value) => sum + value, 0) / Math.max(1, count);
    const spread = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, count)) || 1;
    return values.map((value) => (value - mean) / spread);
  });
}

/** Lag of the strongest agreement of all bands, in feature frames. */
function coarseLag(reference: Float32Array[], other: Float32Array[]): number {
  const size = powerOfTwo(reference[0]!.length + other[0]!.length);
  const sum = new Float64Array(size * 2);
  for (const [band, values] of reference.entries()) {
    const a = spectrumOf(values, size);
    const b = spectrumOf(other[band]!, size);
    for (let bin = 0; bin < sum.length; bin += 2) {
      sum[bin]! += a[bin]! * b[bin]! + a[bin + 1]! * b[bin + 1]!;
      sum[bin + 1]! += a[bin + 1]! * b[bin]! - a[bin]! * b[bin + 1]!;
    }
  }
  const agreement = signalOf(sum);
  let best = 0;
  let bestLag = 0;
  for (let index = 0; index < size; index++) {
    const lag = index < reference[0]!.length ? index : index - size;
    const shared = Math.min(reference[0]!.length, lag + other[0]!.length) - Math.max(0, lag);
    // An overlap of under a second is chance.
    const value = shared < featureHz ? 0 : agreement[index]! / Math.sqrt(shared);
    if (value > best) {
      best = value;
      bestLag = lag;
    }
  }
  return bestLag;
}

interface LagPoint {
  /** Middle of the window in the other recording, in seconds. */
  time: number;
  lag: number;
}

const windowSeconds = 8;
const mostWindows = 48;

function compareWindows(reference: Float32Array, other: Float32Array, coarse: number): LagPoint[] {
  const rate = offsetSampleRate;
  const from = Math.max(0, Math.round(-coarse * rate));
  const to = Math.min(other.length, Math.round((reference.length / rate - coarse) * rate));
  const shared = to - from;
  const length = Math.min(windowSeconds * rate, shared);
  if (length < rate / 2) return [];
  const reach = Math.ceil((0.06 + (widestDrift * shared) / rate) * rate);
  const count = Math.min(mostWindows, Math.max(1, Math.floor(shared / (length / 2))));
  const starts = Array.from(
    { length: count },
    (_, index) => from + Math.round(count === 1 ? 0 : (index * (shared - length)) / (count - 1)),
  );
  const levels = starts.map((start) => meanSquare(other, start, length));
  const quiet = percentile(levels, 0.5) * 0.05;
  return starts.flatMap((start, index) => {
    if (levels[index]! < quiet || levels[index]! < 1e-9) return [];
    const lag = phaseLag(reference, other, start, length, start + Math.round(coarse * rate), reach);
    return lag === null ? [] : [{ time: (start + length / 2) / rate, lag: lag / rate + coarse }];
  });
}

function meanSquare(samples: Float32Array, start: number, length: number): number {
  let sum = 0;
  for (let index = start; index < start + length; index++) sum += samples[index]! ** 2;
  return sum / length;
}

/** Shift, in samples, of a window of the other recording against the reference around `at`; null when nothing stands out. */
function phaseLag(
  reference: Float32Array,
  other: Float32Array,
  start: number,
  length: number,
  at: number,
  reach: number,
): number | null {
  const size = powerOfTwo(length + 2 * reach);
  const around = new Float32Array(length + 2 * reach);
  for (let index = 0; index < around.length; index++) around[index] = reference[at - reach + index] ?? 0;
  const a = spectrumOf(around, size);
  const b = spectrumOf(other.subarray(start, start + length), size);
  const lowest = Math.round((150 / offsetSampleRate) * size);
  const highest = Math.round((3400 / offsetSampleRate) * size);
  const cross = new Float64Array(size * 2);
  for (let bin = 0; bin < size; bin++) {
    const frequency = Math.min(bin, size - bin);
    if (frequency < lowest || frequency > highest) continue;
    const real = a[2 * bin]! * b[2 * bin]! + a[2 * bin + 1]! * b[2 * bin + 1]!;
    const imaginary = a[2 * bin + 1]! * b[2 * bin]! - a[2 * bin]! * b[2 * bin + 1]!;
    // Weight between plain correlation and the full phase transform: noise bands count less than with the latter.
    const weight = Math.hypot(real, imaginary) ** -0.8;
    if (!Number.isFinite(weight)) continue;
    cross[2 * bin] = real * weight;
    cross[2 * bin + 1] = imaginary * weight;
  }
  const agreement = signalOf(cross);
  let best = 0;
  let squares = 0;
  for (let lag = 1; lag < 2 * reach; lag++) {
    squares += agreement[lag]! ** 2;
    if (agreement[lag]! > agreement[best]!) best = lag;
  }
  const spread = Math.sqrt(squares / (2 * reach));
  if (best === 0 || agreement[best]! < 6 * spread) return null;
  const [left, middle, right] = [agreement[best - 1]!, agreement[best]!, agreement[best + 1]!];
  const bend = left - 2 * middle + right;
  return best - reach + (bend < 0 ? (0.5 * (left - right)) / bend : 0);
}

/** Lag at the other's first sample, and its slope; the slope only when the windows span a minute. */
function fitLine(points: LagPoint[]): { at: number; slope: number } {
  const slopes: number[] = [];
  for (let i = 0; i < points.length; i++)
    for (let j = i + 1; j < points.length; j++)
      if (points[j]!.time - points[i]!.time > 20)
        slopes.push((points[j]!.lag - points[i]!.lag) / (points[j]!.time - points[i]!.time));
  const span = points.at(-1)!.time - points[0]!.time;
  const slope = slopes.length > 3 && span > 60 ? percentile(slopes, 0.5) : 0;
  return {
    at: percentile(
      points.map((point) => point.lag - slope * point.time),
      0.5,
    ),
    slope,
  };
}
