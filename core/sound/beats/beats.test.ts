import { describe, expect, it } from 'vitest';
import {
  beatBefore,
  beginsBar,
  correctGrid,
  downbeats,
  hearMusic,
  nearestBeat,
  placeOf,
  snapTo,
  tempoOf,
  type BeatGrid,
  type GridCorrection,
} from '.';
import { beatSampleRate, hearNovelty, onsetHz } from './novelty';
import { onsetPeaks } from './strokes';
import { evenedOnset } from './tempo';
import { beatScore } from './score';
import { testSong } from './testSongs';
import { smoothedBeats, trackBeats } from './track';

describe('onset strength', () => {
  it('peaks where clicks are, to the nearest sample of it, whatever their loudness', () => {
    for (const loud of [0.9, 0.05]) {
      const samples = new Float32Array(beatSampleRate * 6);
      const clicks = [0.5, 1.013, 1.8, 2.55, 3.307, 4.9];
      for (const click of clicks)
        for (let index = 0; index < 160; index++)
          samples[Math.round(click * beatSampleRate) + index] = loud * Math.sin(index * 0.9) * Math.exp(-index / 60);
      const found = onsetPeaks(evenedOnset(hearNovelty(samples).onset)).map((at) => at / onsetHz);
      for (const click of clicks)
        expect(Math.min(...found.map((time) => Math.abs(time - click))), `${click}`).toBeLessThanOrEqual(0.006);
      expect(found.length).toBe(clicks.length);
    }
  });
  it('hears nothing in silence, and no beat in noise or a held tone', () => {
    expect(Math.max(...hearNovelty(new Float32Array(beatSampleRate * 3)).onset)).toBe(0);
    expect(hearMusic(new Float32Array(beatSampleRate * 3)).grid.beats).toEqual([]);
    expect(
      hearMusic(Float32Array.from({ length: beatSampleRate * 4 }, (_, index) => 0.5 * Math.sin(index * 0.2))).grid
        .beats,
    ).toEqual([]);
    expect(hearMusic(new Float32Array(0))).toMatchObject({
      durationSeconds: 0,
      sections: [],
      drops: [],
      lastHit: null,
    });
  });
});

describe('tracking, by the recursion of Ellis (2007)', () => {
  it('keeps its step over a missing stroke and does not follow one between beats', () => {
    const onset = new Float32Array(1200);
    for (let beat = 0; beat < 10; beat++) if (beat !== 5) onset[50 + beat * 100] = 3;
    onset[50 + 4 * 100 + 37] = 3;
    expect(trackBeats(onset, () => 100)).toEqual(
      expect.arrayContaining([50, 150, 250, 350, 450, 550, 650, 750, 850, 950]),
    );
  });
  it('smoothing leaves a steady row and a parabola as they are, and takes jitter out', () => {
    const steady = Array.from({ length: 30 }, (_, index) => index * 0.5);
    const curved = Array.from({ length: 30 }, (_, index) => index * 0.5 + 0.0008 * index * index);
    const even = steady.map(() => 1);
    smoothedBeats(steady, even).forEach((beat, index) => expect(beat).toBeCloseTo(steady[index]!, 9));
    smoothedBeats(curved, even).forEach((beat, index) => expect(beat).toBeCloseTo(curved[index]!, 6));
    const jittered = steady.map((beat, index) => beat + (index % 2 ? 0.01 : -0.01));
    const smooth = smoothedBeats(jittered, even);
    for (let index = 6; index < 24; index++) expect(Math.abs(smooth[index]! - steady[index]!)).toBeLessThan(0.003);
  });
});

describe('the score of MIREX and mir_eval (F-measure, ±70 ms, the first five seconds ignored)', () => {
  it('worked by hand', () => {
    const truth = [4, 5, 6, 7, 8];
    expect(beatScore(truth, truth)).toBe(1);
    // Four count: three hit, one is 80 ms off. P = R = 3/4.
    expect(beatScore([1, 5, 6.06, 6.94, 8.08], truth)).toBeCloseTo(0.75);
    // Twice as many: all four are hit, P = 4/7, R = 1.
    expect(beatScore([5, 5.5, 6, 6.5, 7, 7.5, 8], truth)).toBeCloseTo((2 * (4 / 7)) / (4 / 7 + 1));
    expect(beatScore([], truth)).toBe(0);
  });
});

describe('music with known beats', () => {
  const heard = (...args: Parameters<typeof testSong>) => {
    const song = testSong(...args);
    return { song, hearing: hearMusic(song.samples) };
  };
  it('beats to a few milliseconds, bars, tempo', () => {
    for (const [groove, bpm] of [
      ['rock', 96],
      ['waltz', 84],
      ['floor', 128],
    ] as const) {
      const { song, hearing } = heard(groove, () => bpm, 40, 3);
      expect(beatScore(hearing.grid.beats, song.beats), groove).toBeGreaterThan(0.98);
      expect(beatScore(downbeats(hearing.grid), song.downbeats), groove).toBeGreaterThan(0.95);
      expect(hearing.tempo).toBeCloseTo(bpm, 0);
      expect(hearing.grid.bar).toBe(groove === 'waltz' ? 3 : 4);
      const off = song.beats
        .slice(4, -4)
        .map((beat) => Math.abs(hearing.grid.beats[nearestBeat(hearing.grid, beat)]! - beat))
        .sort((a, b) => a - b);
      expect(off[Math.floor(off.length * 0.95)], groove).toBeLessThan(0.01);
    }
  });
  it('a tempo that drifts, and one that changes for good', () => {
    const drift = heard('rock', (beat) => 90 + beat * 0.3, 40, 4);
    expect(beatScore(drift.hearing.grid.beats, drift.song.beats)).toBeGreaterThan(0.95);
    const step = heard('plain', (beat) => (beat < 48 ? 100 : 132), 50, 6);
    expect(beatScore(step.hearing.grid.beats, step.song.beats)).toBeGreaterThan(0.85);
  });
  it('parts begin within a bar of where they do, the full one is the fullest, and the last stroke is found', () => {
    const { song, hearing } = heard('offbeat', () => 120, 60, 9);
    const starts = hearing.sections.map((section) => section.start);
    for (const part of song.parts.slice(1))
      expect(Math.min(...starts.map((start) => Math.abs(start - part))), `${part}`).toBeLessThanOrEqual(2.1);
    const at = (seconds: number) =>
      hearing.sections.find((section) => seconds >= section.start && seconds < section.end)!;
    expect(at(song.parts[1]! + 4).energy).toBeGreaterThan(at(song.parts[2]! + 4).energy + 0.2);
    expect(at(song.parts[1]! + 4).letter).toBe(at(song.parts[3]! + 4).letter);
    expect(
      hearing.sections.every((section, index) => index === 0 || section.start === hearing.sections[index - 1]!.end),
    ).toBe(true);
    expect(Math.abs(hearing.lastHit! - song.beats.at(-1)!)).toBeLessThan(0.6);
  });
  it('loudness of the record does not matter', () => {
    const { samples } = testSong('rock', () => 110, 25, 2);
    expect(hearMusic(samples.map((value) => value * 0.05)).grid.beats.map((beat) => beat.toFixed(2))).toEqual(
      hearMusic(samples).grid.beats.map((beat) => beat.toFixed(2)),
    );
  });
});

describe('a grid, and putting it right', () => {
  const grid: BeatGrid = {
    beats: Array.from({ length: 13 }, (_, index) => 1 + index * 0.5),
    bar: 4,
    starts: [1, 5, 9],
  };
  const right = (correction: GridCorrection, from = grid) => {
    const result = correctGrid(from, correction);
    if (!result.ok) throw new Error(result.reason);
    return result.grid;
  };
  const wrong = (correction: GridCorrection) => {
    const result = correctGrid(grid, correction);
    return result.ok ? null : result.reason;
  };
  it('finds beats and their places', () => {
    expect([beatBefore(grid, 0.5), beatBefore(grid, 1), beatBefore(grid, 1.49), beatBefore(grid, 99)]).toEqual([
      -1, 0, 0, 12,
    ]);
    expect([
      nearestBeat(grid, 0),
      nearestBeat(grid, 1.3),
      nearestBeat(grid, 1.2),
      nearestBeat({ ...grid, beats: [] }, 1),
    ]).toEqual([0, 1, 0, -1]);
    expect([placeOf(grid, 0), placeOf(grid, 1), placeOf(grid, 8)]).toEqual([
      { bar: 0, beat: 4 },
      { bar: 1, beat: 1 },
      { bar: 2, beat: 4 },
    ]);
    expect([beginsBar(grid, 5), beginsBar(grid, 6), tempoOf(grid), tempoOf({ ...grid, beats: [] })]).toEqual([
      true,
      false,
      120,
      0,
    ]);
    expect([snapTo(grid.beats, 1.55, 0.1), snapTo(grid.beats, 1.7, 0.1), snapTo([], 3, 1)]).toEqual([1.5, 1.7, 3]);
  });
  it('half keeps the beats that begin bars, double puts one between', () => {
    const half = right({ type: 'half' });
    expect(half.beats).toEqual([1.5, 2.5, 3.5, 4.5, 5.5, 6.5]);
    expect(downbeats(half)).toEqual([1.5, 5.5]);
    const double = right({ type: 'double' });
    expect(double.beats.slice(0, 4)).toEqual([1, 1.25, 1.5, 1.75]);
    expect(downbeats(double)).toEqual([1.5, 2.5, 3.5, 4.5, 5.5, 6.5]);
    expect(tempoOf(double)).toBe(240);
    expect(right({ type: 'half' }, double).beats).toEqual(grid.beats);
  });
  it('bars turn, are set, and get another length', () => {
    expect(right({ type: 'turn', beats: 1 }).starts).toEqual([2, 6, 10]);
    expect(right({ type: 'turn', beats: -1 }).starts).toEqual([0, 4, 8, 12]);
    expect(right({ type: 'downbeat', index: 3 }).starts).toEqual([3, 7, 11]);
    expect(right({ type: 'bar', beats: 3 }).starts).toEqual([1, 4, 7, 10]);
    // Bars that are irregular elsewhere stay there.
    expect(right({ type: 'downbeat', index: 8 }, { ...grid, starts: [0, 3, 7, 11] }).starts).toEqual([0, 4, 8, 12]);
  });
  it('shifts, and loses only what would lie before the music', () => {
    expect(right({ type: 'shift', seconds: 0.02 }).beats[0]).toBeCloseTo(1.02);
    const early = right({ type: 'shift', seconds: -1.6 });
    expect([early.beats.length, early.starts]).toEqual([11, [3, 7]]);
    expect(early.beats[0]).toBeCloseTo(0.4);
  });
  it('stretches between two beats that were placed by hand', () => {
    // Beat 2 (at 2.0) to 2.1, beat 6 (at 4.0) to 4.5: steps of 0.6 between; before, 0.1 later; after, 0.5 later.
    const stretched = right({ type: 'stretch', from: { index: 6, seconds: 4.5 }, to: { index: 2, seconds: 2.1 } });
    expect(stretched.beats.slice(0, 8).map((beat) => Number(beat.toFixed(3)))).toEqual([
      1.1, 1.6, 2.1, 2.7, 3.3, 3.9, 4.5, 5,
    ]);
    expect(stretched.starts).toEqual(grid.starts);
  });
  it('says what cannot be done', () => {
    expect(wrong({ type: 'bar', beats: 1 })).toBe('A bar has 2 to 12 beats.');
    expect(wrong({ type: 'downbeat', index: 40 })).toBe('There is no such beat.');
    expect(wrong({ type: 'stretch', from: { index: 2, seconds: 3 }, to: { index: 6, seconds: 3.1 } })).toMatch(
      /has to lie after the first/,
    );
    expect(wrong({ type: 'stretch', from: { index: 2, seconds: 3 }, to: { index: 2, seconds: 4 } })).toBe(
      'Place two different beats.',
    );
    expect(correctGrid({ beats: [1, 2], bar: 4, starts: [0] }, { type: 'half' }).ok).toBe(false);
  });
});
