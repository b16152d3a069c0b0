import FFT from 'fft.js';

/** Smallest power of two that is at least `size` (2 at least). */
export const powerOfTwo = (size: number): number => 2 ** Math.max(1, Math.ceil(Math.log2(size)));

const plans = new Map<number, FFT>();
const planFor = (size: number): FFT => {
  let plan = plans.get(size);
  if (!plan) plans.set(size, (plan = new FFT(size)));
  return plan;
};

/**
 * Spectrum of a real signal, padded with zeros to `size` (a power of two).
 * @returns interleaved real and imaginary parts of all `size` bins
 */
export function spectrumOf(signal: ArrayLike<number>, size: number): Float64Array {
  const input = new Float64Array(size);
  input.set(signal);
  const plan = planFor(size);
  const out = new Float64Array(size * 2);
  plan.realTransform(out, input);
  plan.completeSpectrum(out);
  return out;
}

/** The real signal of a spectrum (interleaved, conjugate symmetric). */
export function signalOf(spectrum: Float64Array): Float64Array {
  const size = spectrum.length / 2;
  const out = new Float64Array(spectrum.length);
  planFor(size).inverseTransform(out, spectrum);
  const real = new Float64Array(size);
  for (let index = 0; index < size; index++) real[index] = out[2 * index]!;
  return real;
}

/** Power of the first size/2 + 1 bins of one frame; `power` is written and returned. */
export class PowerSpectrum {
  private readonly plan: FFT;
  private readonly window: Float64Array;
  private readonly input: Float64Array;
  private readonly out: Float64Array;
  readonly power: Float64Array;

  constructor(readonly size: number) {
    this.plan = planFor(size);
    this.window = Float64Array.from(
      { length: size },
      (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (index + 0.5)) / size),
    );
    this.input = new Float64Array(size);
    this.out = new Float64Array(size * 2);
    this.power = new Float64Array(size / 2 + 1);
  }

  /** @param start first sample of the frame, weighted with a Hann window; what lies outside the samples is silence */
  at(samples: Float32Array, start: number): Float64Array {
    for (let index = 0; index < this.size; index++)
      this.input[index] = (samples[start + index] ?? 0) * this.window[index]!;
    this.plan.realTransform(this.out, this.input);
    for (let bin = 0; bin < this.power.length; bin++)
      this.power[bin] = this.out[2 * bin]! ** 2 + this.out[2 * bin + 1]! ** 2;
    return this.power;
  }
}
