import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { hearMusic } from './hear';
import { looseBeginning, testSong } from './testSongs';

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
  it('a song that changes its tempo is counted right in both parts, and nothing is doubted', () => {
    const { samples, beats } = testSong('rock', (beat) => (beat < 64 ? 100 : 132), 60, 6);
    const { grid, doubts } = hearMusic(samples);
    // By construction: 64 beats at 100 a minute from 0.4 s on.
    expect(met(grid.beats, beats, 5, 38)).toBeGreaterThan(0.95);
    expect(met(grid.beats, beats, 42, 58)).toBeGreaterThan(0.95);
    expect(doubts).toEqual([]);
  });
  it('a beginning without a beat: that part is named, and no other', () => {
    const { samples, beginsAt } = looseBeginning();
    const { doubts } = hearMusic(samples);
    const doubted = (from: number, to: number) =>
      doubts.reduce((sum, { start, end }) => sum + Math.max(0, Math.min(end, to) - Math.max(start, from)), 0);
    expect(doubted(0, beginsAt)).toBeGreaterThan(14);
    expect(doubted(24, 60)).toBe(0);
  });
  it('steady music has none, in whatever way it is counted', () => {
    for (const groove of ['rock', 'floor', 'waltz'] as const)
      expect(hearMusic(testSong(groove, () => 112, 40, 3).samples).doubts).toEqual([]);
  });
  it.skipIf(!existsSync('demo/media/dry-shoes.m4a'))(
    'the demo’s second song, which gathers speed: right all along',
    () => {
      const { grid, doubts } = hearMusic(film('demo/media/dry-shoes.m4a'));
      const { beats } = JSON.parse(readFileSync('demo/media/dry-shoes.truth.json', 'utf8')) as { beats: number[] };
      expect(met(grid.beats, beats, 0, 60)).toBeGreaterThan(0.97);
      expect(doubts).toEqual([]);
    },
  );
});
