import { describe, expect, it } from 'vitest';
import { gaussianSmooth, percentile, poolTrace, prefixSums, runsAbove, slidingRms } from '.';
import { sampleAt } from './trace';

const trace = (values: number[], hz: number, start = 0) => ({
  name: 't',
  hz,
  start,
  values: Float32Array.from(values),
});

describe('traces', () => {
  it('pools means, maxima and last values into slots, and holds over gaps', () => {
    const source = trace([1, 2, 3, 4, 5, 6], 20);
    expect([...poolTrace(source, 10, 3)]).toEqual([1.5, 3.5, 5.5]);
    expect([...poolTrace(source, 10, 3, 'max')]).toEqual([2, 4, 6]);
    expect([...poolTrace(source, 10, 3, 'last')]).toEqual([2, 4, 6]);
    expect([...poolTrace(trace([7, 9], 2), 4, 4)]).toEqual([7, 7, 9, 9]);
    expect([...poolTrace(trace([], 2), 4, 2)]).toEqual([0, 0]);
  });
  it('interpolates and holds the ends', () => {
    expect(sampleAt(trace([0, 10], 1, 5), 5.25)).toBe(2.5);
    expect(sampleAt(trace([0, 10], 1, 5), 99)).toBe(10);
  });
});

describe('runs', () => {
  it('begins where the value enters, stays with hysteresis, bridges and drops short ones', () => {
    const values = [0, 0.3, 0.6, 0.4, 0.3, 0, 0, 0.3, 0.3, 0, 0.9, 0, 0, 0, 0.8, 0.8];
    expect(runsAbove(values, 1, { enter: 0.5, stay: 0.3 })).toEqual([
      { start: 1, end: 5 },
      { start: 10, end: 11 },
      { start: 14, end: 16 },
    ]);
    expect(runsAbove(values, 1, { enter: 0.5, stay: 0.3, minSeconds: 2 })).toEqual([
      { start: 1, end: 5 },
      { start: 14, end: 16 },
    ]);
    expect(runsAbove(values, 1, { enter: 0.5, stay: 0.3, bridgeSeconds: 4 })).toEqual([
      { start: 1, end: 5 },
      { start: 10, end: 16 },
    ]);
  });
});

describe('smoothing', () => {
  it('keeps a constant, keeps the sum of an impulse away from the ends, and passes slow sines', () => {
    expect([...gaussianSmooth(new Float32Array(20).fill(3), 4)].every((value) => Math.abs(value - 3) < 1e-5)).toBe(
      true,
    );
    const impulse = new Float32Array(61);
    impulse[30] = 1;
    expect(gaussianSmooth(impulse, 3).reduce((sum, value) => sum + value, 0)).toBeCloseTo(1, 5);
  });
  it('damps a sine by exp(-2 pi^2 sigma^2 f^2), the transform of a Gaussian', () => {
    const hz = 30;
    const frequency = 1.2;
    const sigma = 0.15;
    const sine = Float32Array.from({ length: 600 }, (_, i) => Math.sin((2 * Math.PI * frequency * i) / hz));
    const out = gaussianSmooth(sine, sigma * hz).subarray(100, 500);
    expect(Math.max(...out)).toBeCloseTo(Math.exp(-2 * Math.PI ** 2 * sigma ** 2 * frequency ** 2), 1.8);
  });
  it('measures RMS, percentiles and sums', () => {
    const sine = Float32Array.from({ length: 1000 }, (_, i) => Math.sin(i / 5));
    expect(slidingRms(sine, 200)[500]).toBeCloseTo(Math.SQRT1_2, 2);
    expect(percentile([4, 1, 3, 2], 0.5)).toBe(2.5);
    expect(percentile([], 0.5)).toBe(0);
    expect([...prefixSums([1, 2, 3])]).toEqual([0, 1, 3, 6]);
  });
});
