import { describe, expect, it } from 'vitest';
import { burstStrength, silentRuns, speechDefaults, speechRuns, suggestedSilenceThreshold } from '.';

const rule = { ...speechDefaults, padSeconds: 0 };
const steps = (text: string) => [...text].map((sign) => ({ '#': 0.9, '+': 0.4, '.': 0.05 })[sign]!);

describe('speech runs (10 probabilities a second)', () => {
  it('enters at 0.5 and leaves under 0.35, keeping what lies between', () => {
    expect(speechRuns(steps('..###++##..'), 10, 1.1, rule)).toEqual([{ start: 0.2, end: 0.9 }]);
    expect(speechRuns(steps('..++++..'), 10, 0.8, rule)).toEqual([]);
  });
  it('drops runs shorter than the least, bridges pauses shorter than the least', () => {
    expect(speechRuns(steps('..##......####'), 10, 1.4, { ...rule, minSpeechSeconds: 0.3 })).toEqual([
      { start: 1, end: 1.4 },
    ]);
    expect(speechRuns(steps('.###..###.'), 10, 1, { ...rule, minPauseSeconds: 0.25 })).toEqual([
      { start: 0.1, end: 0.9 },
    ]);
    expect(speechRuns(steps('.###...###.'), 10, 1.1, { ...rule, minPauseSeconds: 0.2 })).toHaveLength(2);
  });
  it('pads without overlap and without leaving the material', () => {
    const runs = speechRuns(steps('###..###'), 10, 0.8, { ...rule, padSeconds: 0.5 });
    expect(runs).toEqual([
      { start: 0, end: 0.4 },
      { start: 0.4, end: 0.8 },
    ]);
  });
});

it('finds silence by level and least length', () => {
  const levels = [-20, -60, -60, -60, -20, -60, -20];
  expect(silentRuns(levels, 1, { thresholdDb: -40, minSeconds: 2 })).toEqual([{ start: 1, end: 4 }]);
  expect(silentRuns([-60, -60], 1, { thresholdDb: -40, minSeconds: 2 })).toEqual([{ start: 0, end: 2 }]);
});

it('suggests a threshold a little over the room noise, within sense', () => {
  expect(suggestedSilenceThreshold([...Array<number>(20).fill(-52), ...Array<number>(80).fill(-18)])).toBe(-46);
  expect(suggestedSilenceThreshold(Array<number>(9).fill(-90))).toBe(-60);
  expect(suggestedSilenceThreshold(Array<number>(9).fill(-10))).toBe(-30);
});

it('calls a cheer a burst, speech at the same level hardly, birdsong not at all', () => {
  const lufs = Float32Array.from([...Array<number>(90).fill(-55), -39, -15, -15]);
  const strength = burstStrength(lufs, Float32Array.from([...Array<number>(91).fill(0), 0, 1]));
  expect(strength[90]).toBe(0);
  expect(strength[91]).toBe(1);
  expect(strength[92]).toBeCloseTo(0.25);
});
