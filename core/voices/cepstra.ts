import { PowerSpectrum } from '#core/signal';

/** Samples a second that voices are looked at with. */
export const voiceRate = 16_000;
/** Frames a second. */
export const cepstraHz = 100;
/** Numbers a frame. */
export const cepstraSize = 19;

const frameSamples = 512,
  hop = voiceRate / cepstraHz,
  bands = 26,
  preEmphasis = 0.97;

/** Triangular bands on the mel scale (O'Shaughnessy 1987) from 60 Hz to 7.6 kHz. */
function melBands(): { from: number; weights: Float64Array }[] {
  const mel = (hertz: number) => 2595 * Math.log10(1 + hertz / 700);
  const low = mel(60),
    high = mel(7600);
  const edges = Array.from(
    { length: bands + 2 },
    (_, at) => (700 * (10 ** ((low + ((high - low) * at) / (bands + 1)) / 2595) - 1) * frameSamples) / voiceRate,
  );
  return Array.from({ length: bands }, (_, band) => {
    const [left, middle, right] = [edges[band]!, edges[band + 1]!, edges[band + 2]!];
    const from = Math.ceil(left),
      to = Math.floor(right);
    const weights = Float64Array.from({ length: Math.max(0, to - from + 1) }, (_, at) => {
      const bin = from + at;
      return bin <= middle ? (bin - left) / (middle - left) : (right - bin) / (right - middle);
    });
    return { from, weights };
  });
}

/**
 * Mel-frequency cepstra of sound that comes in pieces (Davis & Mermelstein 1980): numbers 1 to 19 of the discrete cosine
 * transform of the logarithms of 26 mel bands; number 0, how loud it is, says nothing about who speaks. Frames of 32 ms with a
 * Hann window, 100 a second.
 */
export class Cepstra {
  private readonly spectrum = new PowerSpectrum(frameSamples);
  private readonly filters = melBands();
  private readonly cosines = Array.from({ length: cepstraSize }, (_, row) =>
    Float64Array.from({ length: bands }, (_, band) => Math.cos((Math.PI * (row + 1) * (band + 0.5)) / bands)),
  );
  private rest = new Float32Array(0);
  private lastSample = 0;
  private rows: Float32Array[] = [];
  private filled = 0;

  /** @param samples mono, 16 kHz, -1 to 1 */
  push(samples: Float32Array): void {
    const all = new Float32Array(this.rest.length + samples.length);
    all.set(this.rest);
    for (let at = 0; at < samples.length; at++) {
      all[this.rest.length + at] = samples[at]! - preEmphasis * this.lastSample;
      this.lastSample = samples[at]!;
    }
    let start = 0;
    for (; start + frameSamples <= all.length; start += hop) this.take(all, start);
    this.rest = all.slice(start);
  }

  private take(samples: Float32Array, start: number): void {
    const power = this.spectrum.at(samples, start);
    const logs = this.filters.map(({ from, weights }) => {
      let sum = 0;
      for (let at = 0; at < weights.length; at++) sum += weights[at]! * power[from + at]!;
      return Math.log(sum + 1e-10);
    });
    const place = this.filled % framesARow;
    if (place === 0) this.rows.push(new Float32Array(framesARow * cepstraSize));
    const row = this.rows.at(-1)!;
    for (let number = 0; number < cepstraSize; number++) {
      let sum = 0;
      for (let band = 0; band < bands; band++) sum += this.cosines[number]![band]! * logs[band]!;
      row[place * cepstraSize + number] = sum / bands;
    }
    this.filled++;
  }

  /** All frames so far, row by row: `cepstraSize` numbers for each hundredth of a second. */
  frames(): Float32Array {
    const all = new Float32Array(this.filled * cepstraSize);
    for (const [at, row] of this.rows.entries()) {
      const from = at * framesARow * cepstraSize;
      all.set(row.subarray(0, Math.min(row.length, all.length - from)), from);
    }
    return all;
  }
}
const framesARow = 6000;
