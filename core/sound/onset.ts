import { PowerSpectrum } from '#core/signal';
import { LowCentroid } from './wind';

const rate = 16000;
const melBands = 24;

/** Edges of triangular mel bands (Stevens, Volkmann & Newman 1937; O'Shaughnessy's formula) from 60 Hz to 7.6 kHz, in bins. */
function bandEdges(size: number): Float64Array {
  const mel = (hertz: number) => 2595 * Math.log10(1 + hertz / 700);
  const low = mel(60),
    high = mel(7600);
  return Float64Array.from(
    { length: melBands + 2 },
    (_, index) => (700 * (10 ** ((low + ((high - low) * index) / (melBands + 1)) / 2595) - 1) * size) / rate,
  );
}

/**
 * Onset strength and tonality of a stream of mono sound at 16 kHz.
 * Onset strength: rise of the logarithmic mel spectrum between frames of 32 ms, summed over bands (spectral flux;
 * Dixon 2006), 50 a second. Tonality: 1 − spectral flatness (Johnston 1988) from 100 Hz to 4 kHz, 10 a second.
 */
export class OnsetMeter {
  static readonly sampleRate = rate;
  static readonly hz = 50;
  private readonly spectrum = new PowerSpectrum(512);
  private readonly edges = bandEdges(512);
  private last: Float64Array | null = null;
  private rest = new Float32Array(0);
  private frame = 0;
  readonly onset: number[] = [];
  readonly tonal: number[] = [];
  /** Centroid of the sound below 1 kHz, in Hz, 10 a second; see `LowCentroid`. */
  readonly centroid: number[] = [];
  private readonly low = new LowCentroid(rate, 512);

  push(samples: Float32Array): void {
    const all = new Float32Array(this.rest.length + samples.length);
    all.set(this.rest);
    all.set(samples, this.rest.length);
    const hop = rate / OnsetMeter.hz;
    let at = 0;
    for (; at + 512 <= all.length; at += hop) this.measure(this.spectrum.at(all, at));
    this.rest = all.slice(at);
  }

  private measure(power: Float64Array): void {
    const bands = new Float64Array(melBands);
    for (let band = 0; band < melBands; band++) {
      const [left, middle, right] = [this.edges[band]!, this.edges[band + 1]!, this.edges[band + 2]!];
      let sum = 0;
      for (let bin = Math.ceil(left); bin <= Math.min(power.length - 1, right); bin++)
        sum +=
          power[bin]! * Math.max(0, bin <= middle ? (bin - left) / (middle - left) : (right - bin) / (right - middle));
      bands[band] = Math.log10(1e-5 + sum);
    }
    let rise = 0;
    if (this.last) for (let band = 0; band < melBands; band++) rise += Math.max(0, bands[band]! - this.last[band]!);
    this.onset.push(rise / melBands);
    this.last = bands;
    this.low.add(power);
    if (this.frame++ % 5 !== 0) return;
    this.centroid.push(this.low.take());
    let logs = 0,
      sum = 0;
    for (let bin = 3; bin < 128; bin++) {
      logs += Math.log(power[bin]! + 1e-9);
      sum += power[bin]! + 1e-9;
    }
    this.tonal.push(1 - Math.exp(logs / 125) / (sum / 125));
  }
}
