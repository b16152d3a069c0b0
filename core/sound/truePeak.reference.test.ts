import { describe, expect, it } from 'vitest';
import { LoudnessMeter, TruePeakMeter } from '.';

const sine = (seconds: number, hertz: number, amplitude: number, phase = 0) =>
  Float32Array.from(
    { length: Math.round(seconds * 48000) * 2 },
    (_, index) => amplitude * Math.sin(2 * Math.PI * hertz * ((index >> 1) / 48000) + phase),
  );

// Source: EBU Tech 3341 (2016), table 1, cases 15 to 19: sine tones of a quarter, a sixth and an eighth of the sampling
// rate; expected -6.0 dBTP (+0.2, -0.4), and +3.0 dBTP for case 19.
describe('true peak', () => {
  it.each([
    [15, 12000, 0, 0.5, -6],
    [16, 12000, 45, 0.5, -6],
    [17, 8000, 60, 0.5, -6],
    [18, 6000, 67.5, 0.5, -6],
    [19, 12000, 45, 1.41, 3],
  ])('case %i', (_case, hertz, degrees, amplitude, expected) => {
    const meter = new TruePeakMeter(2);
    // Faded in, as the test signals are, so that the filter sees no step.
    meter.push(
      sine(1, hertz, amplitude, (degrees * Math.PI) / 180).map((value, index) => value * Math.min(1, index / 4000)),
    );
    expect(meter.decibels).toBeGreaterThan(expected - 0.4);
    expect(meter.decibels).toBeLessThan(expected + 0.2);
  });
  it('says the same whatever the pieces it is fed in', () => {
    const signal = sine(0.5, 997, 0.8);
    const whole = new TruePeakMeter(2),
      pieces = new TruePeakMeter(2);
    whole.push(signal);
    for (let at = 0; at < signal.length; at += 1234) pieces.push(signal.subarray(at, at + 1234));
    expect(pieces.decibels).toBeCloseTo(whole.decibels, 6);
  });
});

// Source: EBU Tech 3342 (2016), table 1: 1 kHz stereo tones of 20 s each at these levels in dBFS, and the expected range (±1 LU).
describe('loudness range', () => {
  it.each([
    [[-20, -30], 10],
    [[-20, -15], 5],
    [[-40, -20], 20],
    [[-50, -35, -20, -35, -50], 15],
  ])('%j gives %i LU', (levels, expected) => {
    const meter = new LoudnessMeter(2);
    for (const level of levels) meter.push(sine(20, 1000, 10 ** (level / 20)));
    expect(Math.abs(meter.range() - expected)).toBeLessThan(1);
  });
});
