import { PowerSpectrum } from '#core/signal';

/** Sound comes in at this rate, mono. */
export const beatSampleRate = 16000;
/** Samples of the onset strength a second. */
export const onsetHz = 200;
/** Tones and timbre, a second; see `Novelty`. */
export const toneHz = 10;

const size = 512;
const hop = beatSampleRate / onsetHz;
const bandCount = 36;
/** Where in the analysis frame an attack gives the steepest rise, in seconds after the frame's start; measured with clicks (`beats.test.ts`). */
const attackSeconds = 0.0165;
/** Compression of the bands' amplitudes: log(1 + gamma · amplitude). After Klapuri, Eronen & Astola (2006). */
const gamma = 100;

/** Bands of `timbre`. */
export const timbreBands = 12;

/** How much begins anew in a sound, sample by sample. */
export interface Novelty {
  durationSeconds: number;
  /** Rise of the spectrum over all bands, `onsetHz` a second; sample i stands for i / onsetHz seconds. */
  onset: Float32Array;
  /** The same under 160 Hz (bass drum, bass) and from 160 Hz to 4 kHz. */
  low: Float32Array;
  middle: Float32Array;
  /** Twelve pitch classes from C, `toneHz` frames a second. */
  chroma: Float32Array;
  /** Levels of twelve mel bands in dB over the quietest that counts; timbre. */
  timbre: Float32Array;
  /** RMS level as an amplitude, `toneHz` a second. */
  level: Float32Array;
}

/** How full the sound of a frame of `timbre` is: the mean level of its bands, in dB; a quiet pad has little, drums over everything much. */
export function fullness(timbre: Float32Array, frame: number): number {
  let sum = 0;
  for (let band = 0; band < timbreBands; band++) sum += timbre[frame * timbreBands + band]! / timbreBands;
  return sum;
}

const mel = (hertz: number) => 2595 * Math.log10(1 + hertz / 700);
const hertz = (mels: number) => 700 * (10 ** (mels / 2595) - 1);

/** Weights of triangular mel bands (Stevens, Volkmann & Newman 1937; O'Shaughnessy's formula), as [bin, weight] lists. */
function melBands(
  count: number,
  from: number,
  to: number,
  frame: number,
): { bins: Int32Array; weights: Float64Array; centre: number }[] {
  const edges = Array.from(
    { length: count + 2 },
    (_, index) => (hertz(mel(from) + ((mel(to) - mel(from)) * index) / (count + 1)) * frame) / beatSampleRate,
  );
  return Array.from({ length: count }, (_, band) => {
    const [left, middle, right] = [edges[band]!, edges[band + 1]!, edges[band + 2]!];
    const bins: number[] = [];
    const weights: number[] = [];
    for (let bin = Math.max(1, Math.floor(left)); bin <= Math.min(frame / 2, Math.ceil(right)); bin++) {
      const weight =
        bin <= middle ? (bin - left) / Math.max(1e-9, middle - left) : (right - bin) / Math.max(1e-9, right - middle);
      if (weight <= 0) continue;
      bins.push(bin);
      weights.push(weight);
    }
    // A band narrower than a bin takes the nearest one.
    if (bins.length === 0) {
      bins.push(Math.max(1, Math.round(middle)));
      weights.push(1);
    }
    return {
      bins: Int32Array.from(bins),
      weights: Float64Array.from(weights),
      centre: (middle * beatSampleRate) / frame,
    };
  });
}

/**
 * What beats, bars and sections are found in: onset strength as spectral flux over mel bands (rises of the logarithmic
 * spectrum, negative changes ignored; Dixon 2006, Ellis 2007), pitch classes and timbre.
 * @param samples mono, 16 kHz, −1 to 1
 */
export function hearNovelty(samples: Float32Array): Novelty {
  const durationSeconds = samples.length / beatSampleRate;
  const count = Math.max(1, Math.floor(durationSeconds * onsetHz));
  const onset = new Float32Array(count),
    low = new Float32Array(count),
    middle = new Float32Array(count);
  const spectrum = new PowerSpectrum(size);
  const bands = melBands(bandCount, 40, 7600, size);
  const isLow = bands.map(({ centre }) => centre < 160),
    isMiddle = bands.map(({ centre }) => centre >= 160 && centre < 4000);
  // Loudness of the record must not matter: amplitudes count against the loudest stretches.
  let peak = 1e-4;
  for (const sample of samples) if (Math.abs(sample) > peak) peak = Math.abs(sample);
  const scale = 1 / (peak * size * 0.25);
  const shift = Math.round(attackSeconds * beatSampleRate);
  // Flux against two frames ago: an attack of 10 ms is one rise, not two.
  const history = [new Float64Array(bandCount), new Float64Array(bandCount), new Float64Array(bandCount)];
  for (let index = -2; index < count; index++) {
    const power = spectrum.at(samples, index * hop - shift);
    const now = history[(index + 3) % 3]!,
      before = history[(index + 4) % 3]!;
    let all = 0,
      lows = 0,
      middles = 0;
    for (let band = 0; band < bandCount; band++) {
      const { bins, weights } = bands[band]!;
      let sum = 0;
      for (let at = 0; at < bins.length; at++) sum += power[bins[at]!]! * weights[at]!;
      const value = Math.log1p(gamma * Math.sqrt(sum) * scale);
      now[band] = value;
      const rise = value - before[band]!;
      if (rise <= 0) continue;
      all += rise;
      if (isLow[band]) lows += rise;
      else if (isMiddle[band]) middles += rise;
    }
    if (index < 0) continue;
    onset[index] = all;
    low[index] = lows;
    middle[index] = middles;
  }
  return { durationSeconds, onset, low, middle, ...hearTones(samples, peak) };
}

const toneSize = 4096;

function hearTones(samples: Float32Array, peak: number): Pick<Novelty, 'chroma' | 'timbre' | 'level'> {
  const frames = Math.max(1, Math.floor((samples.length / beatSampleRate) * toneHz));
  const step = beatSampleRate / toneHz;
  const chroma = new Float32Array(frames * 12),
    timbre = new Float32Array(frames * timbreBands),
    level = new Float32Array(frames);
  const spectrum = new PowerSpectrum(toneSize);
  const bands = melBands(timbreBands, 60, 7600, toneSize);
  const first = Math.ceil((110 * toneSize) / beatSampleRate),
    last = Math.floor((2100 * toneSize) / beatSampleRate);
  const pitch = Int32Array.from({ length: last + 1 }, (_, bin) =>
    bin === 0 ? 0 : ((Math.round(12 * Math.log2((bin * beatSampleRate) / toneSize / 440) + 69) % 12) + 12) % 12,
  );
  const quiet = (peak * toneSize * 0.25 * 1e-3) ** 2;
  for (let frame = 0; frame < frames; frame++) {
    const power = spectrum.at(samples, frame * step + step / 2 - toneSize / 2);
    for (let bin = first; bin <= last; bin++) chroma[frame * 12 + pitch[bin]!]! += Math.sqrt(power[bin]!);
    let sum = 0;
    for (let index = frame * step; index < (frame + 1) * step; index++) sum += (samples[index] ?? 0) ** 2;
    level[frame] = Math.sqrt(sum / step);
    for (let band = 0; band < timbreBands; band++) {
      const { bins, weights } = bands[band]!;
      let energy = 0;
      for (let at = 0; at < bins.length; at++) energy += power[bins[at]!]! * weights[at]!;
      timbre[frame * timbreBands + band] = 10 * Math.log10(1 + energy / quiet);
    }
  }
  return { chroma, timbre, level };
}
