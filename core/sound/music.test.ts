import { expect, it } from 'vitest';
import { musicLikelihood, musicRuns, OnsetMeter } from '.';

const rate = OnsetMeter.sampleRate;
function hear(seconds: number, at: (t: number) => number) {
  const meter = new OnsetMeter();
  const sound = Float32Array.from({ length: seconds * rate }, (_, index) => at(index / rate));
  meter.push(sound.subarray(0, 5001));
  meter.push(sound.subarray(5001));
  const level = Float32Array.from({ length: seconds * 50 }, (_, hop) => {
    const part = sound.subarray(hop * 320, (hop + 1) * 320);
    return Math.max(-90, 10 * Math.log10(part.reduce((sum, value) => sum + value * value, 0) / 320 + 1e-9));
  });
  return { meter, likely: musicLikelihood(meter.onset, meter.tonal, level) };
}
let state = 3;
const noise = () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 31 - 1) * 0.3;
const chord = (t: number) =>
  0.1 * (Math.sin(2 * Math.PI * 220 * t) + Math.sin(2 * Math.PI * 277.2 * t) + Math.sin(2 * Math.PI * 329.6 * t));

it('a chord struck twice a second is music, steady noise and a lone chord are not', () => {
  const beaten = hear(16, (t) => chord(t) * (0.4 + 1.6 * Math.exp(-8 * (t % 0.5))));
  expect(musicRuns(beaten.likely)[0]!.end - musicRuns(beaten.likely)[0]!.start).toBeGreaterThan(10);
  expect(musicRuns(hear(16, noise).likely)).toEqual([]);
  expect(musicRuns(hear(16, () => 0).likely)).toEqual([]);
});
it('onset strength peaks where a tone begins', () => {
  const { meter } = hear(2, (t) => (t > 1 ? chord(t) : 0));
  const strongest = meter.onset.indexOf(Math.max(...meter.onset));
  expect(Math.abs(strongest / OnsetMeter.hz - 1)).toBeLessThan(0.05);
});
