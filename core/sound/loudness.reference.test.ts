import { describe, expect, it } from 'vitest';
import { LoudnessMeter } from './loudness';

// Source: EBU Tech 3341 (2016), table 1, minimum requirements test signals: stereo 1 kHz sines, tolerance 0.1 LU.
const rate = LoudnessMeter.sampleRate;

/** Stereo sine of `frequency`, each part [dBFS, seconds] after the other. */
function sines(parts: [decibels: number, seconds: number][], frequency = 1000): Float32Array {
  const total = parts.reduce((sum, [, seconds]) => sum + Math.round(seconds * rate), 0);
  const out = new Float32Array(total * 2);
  let at = 0;
  for (const [decibels, seconds] of parts)
    for (let end = at + Math.round(seconds * rate); at < end; at++)
      out[at * 2] = out[at * 2 + 1] = 10 ** (decibels / 20) * Math.sin((2 * Math.PI * frequency * at) / rate);
  return out;
}

function measure(samples: Float32Array) {
  const meter = new LoudnessMeter(2);
  for (let at = 0; at < samples.length; at += 9998) meter.push(samples.subarray(at, at + 9998));
  return meter;
}

describe('EBU Tech 3341', () => {
  it.each([
    ['case 1: -23 dBFS for 20 s', [[-23, 20]], -23],
    ['case 2: -33 dBFS for 20 s', [[-33, 20]], -33],
    [
      'case 3: relative gate',
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      'case 4: both gates',
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      'case 5: mean of levels within the gate',
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ] as [string, [number, number][], number][])('%s', (_name, parts, lufs) => {
    expect(Math.abs(measure(sines(parts)).integrated() - lufs)).toBeLessThanOrEqual(0.1);
  });

  it('cases 1 and 2, momentary and short-term, after their windows are full', () => {
    const meter = measure(sines([[-23, 20]]));
    for (const values of [meter.momentary().subarray(4), meter.shortTerm().subarray(30)])
      for (const value of values) expect(Math.abs(value + 23)).toBeLessThanOrEqual(0.1);
  });

  it('case 9: short-term is constant for 1.34 s at -20 and 1.66 s at -30 dBFS in turn', () => {
    const meter = measure(
      sines(
        Array.from(
          { length: 5 },
          () =>
            [
              [-20, 1.34],
              [-30, 1.66],
            ] as [number, number][],
        ).flat(),
      ),
    );
    for (const value of meter.shortTerm().subarray(30)) expect(Math.abs(value + 23)).toBeLessThanOrEqual(0.1);
  });

  // ITU-R BS.1770-4: a 997 Hz sine at 0 dBFS in one front channel reads -3.01 LKFS.
  it('reads -3.01 LKFS for a full-scale sine in one channel', () => {
    const both = sines([[0, 10]], 997);
    for (let at = 1; at < both.length; at += 2) both[at] = 0;
    expect(measure(both).integrated()).toBeCloseTo(-3.01, 1);
  });

  it('says nothing about silence', () => expect(measure(new Float32Array(rate * 4)).integrated()).toBe(-Infinity));
});
