import { describe, expect, it } from 'vitest';
import { guessReading, readingPace } from '.';

describe('what reading costs', () => {
  const film = { kind: 'video' as const, width: 1280, height: 720 };
  it('grows with the length and with the pixels, sound costs little, a photo a moment', () => {
    expect(guessReading(film, 120)).toBeCloseTo(2 * guessReading(film, 60), 9);
    expect(guessReading({ ...film, width: 3840, height: 2160 }, 60)).toBeGreaterThan(4 * guessReading(film, 60));
    expect(guessReading({ kind: 'sound', width: 0, height: 0 }, 3600)).toBeLessThan(120);
    expect(guessReading({ kind: 'photo', width: 4000, height: 3000 }, 0)).toBe(1);
  });
  it('is learnt from what this machine read: its median, so that one slow file says little', () => {
    const took = (...ratios: number[]) => readingPace(ratios.map((ratio) => ({ guess: 10, took: 10 * ratio })));
    expect([took(), took(2), took(0.5, 0.6, 9), took(1000)]).toEqual([1, 2, 0.6, 20]);
    expect(readingPace([{ guess: 0, took: 5 }])).toBe(1);
  });
});
