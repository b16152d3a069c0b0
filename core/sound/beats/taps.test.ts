import { describe, expect, it } from 'vitest';
import { gridByTaps, tapsTogether, type WeighedStroke } from './taps';
import { gridWithPart, sameCountIn, tempoWithin } from './parts';
import { tempoOf, type BeatGrid } from './grid';

/** Numbers that look like chance, evenly between −1 and 1 (Park and Miller 1988). */
function chance(seed: number): () => number {
  let state = seed;
  return () => ((state = (state * 48_271) % 2_147_483_647) / 2_147_483_647) * 2 - 1;
}
const times = (from: number, to: number, step: number): number[] =>
  Array.from({ length: Math.floor((to - from) / step) }, (_, index) => from + index * step);
const met = (found: readonly number[], truth: readonly number[], within = 0.07): number =>
  truth.filter((beat) => found.some((each) => Math.abs(each - beat) <= within)).length / truth.length;
const strokesAt = (seconds: readonly number[]): WeighedStroke[] =>
  seconds.map((each) => ({ seconds: each, weight: 0.8 })).sort((a, b) => a.seconds - b.seconds);

describe('beats that are tapped', () => {
  it('belong together up to a long pause or a double press', () => {
    expect(tapsTogether([1, 1.5, 2, 8, 8.5, 9.01, 9.5])).toEqual([8, 8.5, 9.01, 9.5]);
    expect(tapsTogether([1, 1.05, 1.55, 2.05])).toEqual([1.05, 1.55, 2.05]);
    expect(tapsTogether([])).toEqual([]);
  });

  it('four of them settle tempo and phase of a part whose strokes they only roughly hit', () => {
    // Tapping scatters by about 20 ms and comes some 30 ms early (Repp 2005, a review of sensorimotor synchronization).
    const random = chance(11);
    for (const bpm of [72, 104.6, 128, 171]) {
      const step = 60 / bpm;
      const beats = times(20.2, 60, step);
      // Strokes on beats and half beats, some missing, some anywhere.
      const strokes = strokesAt([
        ...beats.filter((_, index) => index % 7 !== 3),
        ...beats.filter((_, index) => index % 3 === 0).map((beat) => beat + step / 2),
        ...times(20, 60, 1.37),
      ]);
      const taps = beats.slice(16, 20).map((beat) => beat - 0.03 + 0.02 * random());
      const grid = gridByTaps(taps, strokes, { start: 20, end: 60 }, 4);
      expect(met(grid.beats, beats, 0.04), `${bpm}`).toBe(1);
      expect(Math.abs(grid.beats.length - beats.length), `${bpm}`).toBeLessThanOrEqual(1);
      expect(grid.starts.map((index) => grid.beats[index]!).some((beat) => Math.abs(beat - beats[16]!) < 0.04)).toBe(
        true,
      );
      expect(grid.starts.every((index, at) => at === 0 || index - grid.starts[at - 1]! === 4)).toBe(true);
    }
  });

  it('are followed where the music gathers speed', () => {
    const beats = [0.3];
    while (beats.at(-1)! < 60) beats.push(beats.at(-1)! + 60 / (100 + beats.length / 8));
    const grid = gridByTaps(beats.slice(30, 34), strokesAt(beats), { start: 0, end: 60 }, 4);
    const inside = beats.filter((beat) => beat > 0.5 && beat < 59.5);
    expect(met(grid.beats, inside, 0.03)).toBe(1);
  });

  it('stand by themselves where nothing is heard', () => {
    const grid = gridByTaps([10, 10.5, 11, 11.5], [], { start: 8, end: 14 }, 3);
    expect(grid.beats.map((beat) => Math.round(beat * 1000) / 1000)).toEqual(times(8, 14, 0.5));
    // The first tap, at 10 s, begins a bar.
    expect(grid.starts).toEqual([1, 4, 7, 10]);
  });

  it('one that was left out, and a clumsy one, do not change the tempo', () => {
    const grid = gridByTaps([10, 10.5, 11.5, 12.09, 12.5, 13], [], { start: 5, end: 20 }, 4);
    expect(tempoOf(grid)).toBeCloseTo(120, 0);
  });
});

describe('a part of a song that is counted otherwise', () => {
  const even = (from: number, to: number, bpm: number): BeatGrid => {
    const beats = times(from, to, 60 / bpm);
    return { beats, bar: 4, starts: beats.flatMap((_, index) => (index % 4 === 0 ? [index] : [])) };
  };
  const slow = even(0, 60, 100);
  const fast = even(0.2, 60, 150);
  const part = { start: 21.1, end: 40.1 };
  const mixed = gridWithPart(slow, fast, part);

  it('has the beats of the other count inside and its own outside', () => {
    expect(sameCountIn(mixed, fast, part)).toBe(true);
    expect(sameCountIn(mixed, slow, { start: 0, end: 20.5 })).toBe(true);
    expect(sameCountIn(mixed, slow, { start: 41, end: 60 })).toBe(true);
    expect(sameCountIn(mixed, slow, part)).toBe(false);
    expect([tempoWithin(mixed, part), tempoWithin(slow, part)].map(Math.round)).toEqual([150, 100]);
    expect(tempoWithin(mixed, { start: 70, end: 80 })).toBe(0);
  });
  it('has no two beats on top of one another at its seams, and bars that begin on beats', () => {
    const steps = mixed.beats.slice(1).map((beat, index) => beat - mixed.beats[index]!);
    // By hand: the shorter of both steps is 0.4 s; six tenths of it may lie between two counts.
    expect(Math.min(...steps)).toBeGreaterThan(0.239);
    expect(mixed.starts.every((index) => mixed.beats[index] !== undefined)).toBe(true);
    const begins = mixed.starts.map((index) => mixed.beats[index]!);
    expect(begins.filter((beat) => beat < 20)).toEqual(
      slow.starts.map((index) => slow.beats[index]!).filter((beat) => beat < 20),
    );
  });
  it('over all of it is the other count', () => {
    expect(gridWithPart(slow, fast, { start: 0, end: 100 })).toEqual(fast);
  });
});
