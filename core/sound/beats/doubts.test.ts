import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { loadSong, songs, songsAreHere } from '../../../scripts/accuracy/songs';
import { hearMusic } from './hear';
import { testSong } from './testSongs';

const film = (file: string): Float32Array => {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', '16000', '-f', 'f32le', '-'], {
    maxBuffer: 1 << 28,
  });
  return new Float32Array(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength - (bytes.byteLength % 4)),
  );
};
/** Share of the true beats of a stretch that have a found one within 70 ms (the tolerance of MIREX), whatever is found between them. */
const met = (found: readonly number[], truth: readonly number[], from: number, to: number): number => {
  const own = truth.filter((beat) => beat >= from && beat < to);
  return own.filter((beat) => found.some((each) => Math.abs(each - beat) <= 0.07)).length / Math.max(1, own.length);
};

describe('where the beats of music may be wrong', () => {
  it('a song that changes its tempo: the part that was counted wrong is named, with the tempo that fits it', () => {
    const { samples, beats } = testSong('rock', (beat) => (beat < 64 ? 100 : 132), 60, 6);
    const { grid, doubts } = hearMusic(samples);
    // By construction: 64 beats at 100 a minute from 0.4 s on.
    expect(met(grid.beats, beats, 5, 38)).toBeGreaterThan(0.9);
    expect(met(grid.beats, beats, 42, 58)).toBeLessThan(0.75);
    expect(doubts).toHaveLength(1);
    expect(Math.abs(doubts[0]!.start - 39)).toBeLessThan(5);
    expect(doubts[0]!.end).toBeGreaterThan(57);
    expect(doubts[0]!.tempo! / 132).toBeCloseTo(1, 1);
  });
  it('steady music has none, in whatever way it is counted', () => {
    for (const groove of ['rock', 'floor', 'waltz'] as const)
      expect(hearMusic(testSong(groove, () => 112, 40, 3).samples).doubts).toEqual([]);
  });
  it.skipIf(!existsSync('demo/media/dry-shoes.m4a'))(
    'the demo’s second song, of which the beginning is counted wrong',
    () => {
      const { grid, doubts } = hearMusic(film('demo/media/dry-shoes.m4a'));
      const { beats } = JSON.parse(readFileSync('demo/media/dry-shoes.truth.json', 'utf8')) as { beats: number[] };
      expect(met(grid.beats, beats, 0, 14)).toBeLessThan(0.75);
      expect(met(grid.beats, beats, 26, 48)).toBeGreaterThan(0.95);
      expect(doubts.map(({ start }) => start)).toEqual([0]);
      expect(doubts[0]!.end).toBeGreaterThan(12);
      expect(doubts[0]!.end).toBeLessThan(26);
    },
  );
  // Tempo maps of the songs of Debian's fretsonfire-songs-sectoid.
  it.skipIf(!songsAreHere())('real songs to a click: where nothing is doubted the beats are right', () => {
    for (const name of songs) {
      const { samples, beats } = loadSong(name);
      const { grid, doubts } = hearMusic(samples);
      const doubted = doubts.reduce((sum, { start, end }) => sum + end - start, 0);
      expect(doubted / (samples.length / 16_000), name).toBeLessThan(0.15);
      const sure = beats.filter(
        (beat) => beat > 5 && !doubts.some(({ start, end }) => beat >= start - 1 && beat <= end + 1),
      );
      expect(
        sure.filter((beat) => grid.beats.some((each) => Math.abs(each - beat) <= 0.07)).length / sure.length,
        name,
      ).toBeGreaterThan(0.9);
    }
  });
});
