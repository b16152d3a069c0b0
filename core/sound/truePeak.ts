/**
 * True peak after ITU-R BS.1770-4, Annex 2: the largest value of the signal sampled four times as often, through the
 * 48-tap interpolating filter given there (four phases of twelve).
 */
const phases = [
  [
    0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625, 0.97216796875,
    -0.102294921875, 0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125,
  ],
  [
    -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625, 0.77978515625,
    -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
  ],
  [
    -0.0189208984375, 0.0330810546875, -0.0582275390625, 0.1015625, -0.2003173828125, 0.77978515625, 0.465087890625,
    -0.16650390625, 0.089111328125, -0.0517578125, 0.029296875, -0.0291748046875,
  ],
  [
    -0.00830078125, 0.014892578125, -0.026611328125, 0.047607421875, -0.102294921875, 0.97216796875, 0.1373291015625,
    -0.0594482421875, 0.033203125, -0.0196533203125, 0.010986328125, 0.001708984375,
  ],
];
const taps = 12;

/** Feed interleaved samples at 48 kHz; `decibels` is the highest true peak so far in dBTP. */
export class TruePeakMeter {
  private readonly history: Float32Array[];
  private highest = 0;

  constructor(private readonly channels: number) {
    this.history = Array.from({ length: channels }, () => new Float32Array(taps));
  }

  push(samples: Float32Array): void {
    const frames = Math.floor(samples.length / this.channels);
    for (let channel = 0; channel < this.channels; channel++) {
      const line = new Float32Array(taps + frames);
      line.set(this.history[channel]!);
      for (let frame = 0; frame < frames; frame++) line[taps + frame] = samples[frame * this.channels + channel]!;
      this.measure(line);
      this.history[channel] = line.slice(-taps);
    }
  }

  /** A stretch whose loudest sample is far under the peak so far cannot beat it: the filter's gain stays under 2. */
  private measure(line: Float32Array): void {
    const stretch = 256;
    for (let from = taps; from < line.length; from += stretch) {
      const to = Math.min(line.length, from + stretch);
      let loudest = 0;
      for (let index = from - taps + 1; index < to; index++) loudest = Math.max(loudest, Math.abs(line[index]!));
      if (loudest * 1.9 <= this.highest) continue;
      this.highest = Math.max(this.highest, loudest);
      for (let index = from; index < to; index++)
        for (const phase of phases) {
          let sum = 0;
          for (let tap = 0; tap < taps; tap++) sum += phase[tap]! * line[index - tap]!;
          if (Math.abs(sum) > this.highest) this.highest = Math.abs(sum);
        }
    }
  }

  get decibels(): number {
    return 20 * Math.log10(Math.max(1e-7, this.highest));
  }
}
