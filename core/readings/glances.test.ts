import { describe, expect, it } from 'vitest';
import { derive } from './derive';
import { glanceSteps, readingOfGlances, type Glance } from './glances';
import { lookColumns, lookRows, runsOf } from './index';

describe('points that are looked at', () => {
  it('are spread over all of two hours at once and come closer, none of them twice', () => {
    const steps = glanceSteps({ start: 0, end: 7200 });
    expect(steps.map(({ points }) => points.length)).toEqual([24, 48, 144]);
    expect(steps.map(({ partSeconds }) => Math.round(partSeconds))).toEqual([300, 100, 33]);
    for (const [last, { partSeconds }] of steps.entries()) {
      const soFar = steps
        .slice(0, last + 1)
        .flatMap(({ points }) => points)
        .sort((a, b) => a - b);
      // Each lies in the middle of a part of its own.
      soFar.forEach((point, part) => expect(point).toBeCloseTo((part + 0.5) * partSeconds, 6));
      expect(soFar).toHaveLength(Math.round(7200 / partSeconds));
    }
  });
  it('are few in short files, and lie within a range', () => {
    expect(glanceSteps({ start: 0, end: 9 }).map(({ points }) => points)).toEqual([[2.25, 6.75]]);
    const steps = glanceSteps({ start: 600, end: 7200 });
    for (const point of steps.flatMap(({ points }) => points)) expect(point > 600 && point < 7200).toBe(true);
  });
});

describe('what they tell of the whole', () => {
  const box = { x: 0.4, y: 0.2, width: 0.2, height: 0.3, score: 0.98 };
  const at = (time: number, mean: number, voice: number, faces = 0): Glance => ({
    time,
    seen: {
      sharpness: 0.7,
      light: { mean, dark: 0, bright: 0, contrast: 0.2 },
      look: new Float32Array(lookColumns * lookRows).fill(mean),
      faces: Array.from({ length: faces }, () => box),
    },
    heard: { voice, level: -20, peak: 0.3 },
  });
  const raw = readingOfGlances([at(50, 0.2, 0.95), at(150, 0.4, 0.02, 1), at(250, 0.02, 0.9)], {
    durationSeconds: 300,
    voiceHz: 31.25,
  });
  const derived = derive(raw);
  it('voices where they were heard and nowhere else', () => {
    const speech = runsOf(derived.runs, 'speech');
    expect(speech.map(({ start, end }) => [Math.round(start / 5) * 5, Math.round(end / 5) * 5])).toEqual([
      [45, 55],
      [245, 255],
    ]);
  });
  it('faces until half way to the next point, light that goes over, the nearest look', () => {
    expect([99, 101, 199, 201].map((second) => derived.traces.faces[second * 10])).toEqual([0, 1, 1, 0]);
    expect(raw.traces.get('light.mean')!.values[50]).toBeCloseTo(0.3, 1);
    expect([10, 149, 290].map((second) => raw.look[second * 2 * lookColumns * lookRows]!.toFixed(2))).toEqual([
      '0.20',
      '0.40',
      '0.02',
    ]);
    expect(runsOf(derived.runs, 'black')[0]!.start).toBeGreaterThan(200);
  });
  it('nothing about motion, shake, cuts or focus', () => {
    expect(runsOf(derived.runs, 'shaky', 'whip', 'smooth', 'frozen', 'focus', 'flash')).toEqual([]);
    expect(runsOf(derived.runs, 'scene')).toHaveLength(1);
  });
  it('what could be neither seen nor heard is passed over', () => {
    const deaf = readingOfGlances(
      [
        { ...at(10, 0.3, 0), heard: null },
        { time: 30, seen: null, heard: null },
      ],
      {
        durationSeconds: 40,
        voiceHz: 31.25,
      },
    );
    expect([deaf.hasPicture, deaf.hasSound, deaf.faces.length]).toEqual([true, false, 1]);
  });
});
