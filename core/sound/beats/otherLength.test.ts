import { describe, expect, it } from 'vitest';
import { totalLength, type Range } from '#core/time';
import { hearMusic } from './hear';
import { hearBars, otherLength } from './otherLength';
import type { Bar } from './sections';
import { testSong } from './testSongs';

/** Bars of two seconds, each sounding as its letter says. */
const barsOfText = (text: string): Bar[] =>
  [...text].map((letter, index) => {
    const features = new Float64Array(26);
    features[letter.charCodeAt(0) % 12] = 3;
    return { start: index * 2, end: index * 2 + 2, features, full: 1 };
  });
/** What is heard, in letters. */
const heard = (text: string, stretches: readonly Range[]): string =>
  stretches.map(({ start, end }) => text.slice(start / 2, end / 2)).join('');

describe('music of another length', () => {
  // Intro, verse, chorus, verse, chorus, bridge, chorus, ending.
  const song = 'iiiiABABABABccccccccABABABABccccccccbbbbccccccccEEEE';

  it('is shorter by going on where it sounds alike: no two bars meet that do not in the song', () => {
    const pairs = new Set([...song].slice(1).map((letter, index) => song[index]! + letter));
    for (const seconds of [96, 72, 60, 48]) {
      const stretches = otherLength(barsOfText(song), seconds)!;
      const text = heard(song, stretches);
      expect(Math.abs(text.length * 2 - seconds), `${seconds}`).toBeLessThanOrEqual(6);
      for (let at = 1; at < text.length; at++) expect(pairs.has(text[at - 1]! + text[at]!), text).toBe(true);
      expect([text.slice(0, 4), text.slice(-4)]).toEqual(['iiii', 'EEEE']);
      expect(stretches.every(({ start, end }) => end - start >= 8)).toBe(true);
    }
  });
  it('is longer by repeating what sounds alike', () => {
    const text = heard(song, otherLength(barsOfText(song), 150)!);
    expect(Math.abs(text.length * 2 - 150)).toBeLessThanOrEqual(6);
    expect([text.slice(0, 4), text.slice(-4)]).toEqual(['iiii', 'EEEE']);
  });
  it('is itself when it is as long as it should be', () => {
    expect(otherLength(barsOfText(song), song.length * 2)).toEqual([{ start: 0, end: song.length * 2 }]);
  });
  it('cannot be where there are too few bars, or none', () => {
    expect(otherLength(barsOfText('ABAB'), 4)).toBeNull();
    expect(otherLength([], 60)).toBeNull();
  });

  it('joins a made song on its downbeats', () => {
    const { samples, downbeats } = testSong('rock', () => 120, 90, 5);
    const stretches = otherLength(hearBars(samples, hearMusic(samples).grid), 45)!;
    expect(Math.abs(totalLength(stretches) - 45)).toBeLessThan(6.5);
    expect(stretches.length).toBeGreaterThan(1);
    // By construction of the song.
    const isDownbeat = (seconds: number) => downbeats.some((beat) => Math.abs(beat - seconds) < 0.03);
    for (const { end } of stretches.slice(0, -1)) expect(isDownbeat(end), `${end}`).toBe(true);
    for (const { start } of stretches.slice(1)) expect(isDownbeat(start), `${start}`).toBe(true);
    expect([stretches[0]!.start, stretches.at(-1)!.end]).toEqual([0, samples.length / 16_000]);
  });
});
