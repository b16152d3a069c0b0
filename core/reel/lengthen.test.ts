import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import {
  applyCommand,
  assembleReel,
  fitReelToMusic,
  itemsFrames,
  mainTrack,
  musicDefaults,
  type Reel,
  type Source,
} from '.';
import type { KnownFootage } from './lengthen';

const sources = new Map<string, Source>([
  ['a', { id: 'a', name: 'a.mp4', durationSeconds: 60 }],
  ['b', { id: 'b', name: 'b.mp4', durationSeconds: 11 }],
  ['p', { id: 'p', name: 'p.jpg', durationSeconds: 0, photo: true }],
]);
let count = 0;
/** A 2–6 s, B 5–10 s, a photo for 3 s: twelve seconds, 300 frames. */
const start = (startSeconds = 0): Reel => ({
  ...assembleReel(
    'Pond',
    [
      { media: 'a', start: 2, end: 6, name: 'A' },
      { media: 'b', start: 5, end: 10, name: 'B' },
      { media: 'p', start: 0, end: 3, name: 'P' },
    ],
    sources,
    rates['25'],
    { width: 320, height: 180 },
    () => `c${count++}`,
  ),
  music: { ...musicDefaults, media: 'a', name: 'song', startSeconds },
});
const free: KnownFootage = { spokenIn: () => [], shotsIn: () => [] };
const fit = (reel: Reel, durationSeconds: number, material = free, beats: number[] = []) => {
  const fitted = fitReelToMusic(reel, { beats, durationSeconds }, sources, material)!;
  const result = applyCommand(reel, fitted.command, sources);
  if (!result.ok) throw new Error(result.reason);
  return {
    fitted,
    frames: itemsFrames(mainTrack(result.reel).items),
    lengths: mainTrack(result.reel).items.map((item) => item.frames),
    reel: result.reel,
  };
};

describe('a reel that is fitted to its music', () => {
  it('is as long as the music to the frame, all pieces in proportion', () => {
    const { fitted, frames, lengths } = fit(start(), 15);
    expect([frames, fitted.lengthened, fitted.shortSeconds]).toEqual([375, 3, 0]);
    // By hand: 75 frames for 100 + 125 + 75: B has only 25 left in its source, the rest falls to the others.
    expect(lengths[1]).toBe(150);
    expect(lengths[0]! / 100).toBeCloseTo(lengths[2]! / 75, 1);
  });
  it('from where the reel begins in the music', () => expect(fit(start(2), 15).frames).toBe(325));
  it('says by how much the music is longer than all there is to show', () => {
    const { fitted, frames } = fit(start(), 60);
    // At most twice as long: A 200, B 150 (the end of its source), the photo 150.
    expect([frames, fitted.shortSeconds]).toEqual([500, 40]);
  });
  it('shows nothing twice: a piece ends where another one of the same source begins', () => {
    const twice = {
      ...start(),
      ...assembleReel(
        'Pond',
        [
          { media: 'a', start: 2, end: 6, name: 'A' },
          { media: 'a', start: 7, end: 11, name: 'later' },
          { media: 'a', start: 0, end: 1, name: 'earlier' },
        ],
        sources,
        rates['25'],
        { width: 320, height: 180 },
        () => `c${count++}`,
      ),
    };
    // By hand: one second is left before "later", "earlier" has one before A, "later" may last twice as long.
    expect(fit(twice, 60).lengths).toEqual([125, 200, 50]);
  });
  it('shows no other shot, and ends in no word', () => {
    const shots = {
      ...free,
      shotsIn: (media: string) =>
        media === 'a'
          ? [
              { start: 0, end: 7 },
              { start: 7, end: 60 },
            ]
          : [],
    };
    expect(fit(start(), 60, shots).lengths[0]).toBe(125);
    // Somebody speaks from 6.5 to 30 s: A may go on to just before that.
    const speech = { ...free, spokenIn: (media: string) => (media === 'a' ? [{ start: 6.5, end: 30 }] : []) };
    expect(fit(start(), 60, speech).lengths[0]).toBe(111);
  });
  it('loses what goes beyond the music, and says so', () => {
    const { fitted, frames } = fit(start(), 8);
    expect([frames, fitted.shortened, fitted.lengthened]).toEqual([200, 2, 0]);
  });
  it('has its cuts on beats afterwards, where they can be rolled', () => {
    const { fitted, lengths, frames } = fit(start(), 15, free, [1, 5, 5.1, 12, 14]);
    expect(fitted.moved).toBeGreaterThan(0);
    expect(lengths[0]! / 25).toBeCloseTo(5.1, 1);
    expect(frames).toBe(375);
  });
  it('without music, or when all fits already, nothing is done', () => {
    const { music: _, ...silent } = start();
    expect(fitReelToMusic(silent, { beats: [], durationSeconds: 20 }, sources, free)).toBeNull();
    expect(fitReelToMusic(start(), { beats: [], durationSeconds: 12 }, sources, free)).toBeNull();
  });
});
