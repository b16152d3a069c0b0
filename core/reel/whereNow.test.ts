import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { applyCommand } from './commands';
import type { Clip, Reel, ReelItem, Source } from './types';
import { whereNow } from './whereNow';

const clip = (id: string, media: string, sourceIn: number, frames: number, more: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id,
  media,
  name: id,
  sourceIn,
  frames,
  ...more,
});
const reel = (...items: ReelItem[]): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 'Pond',
  rate: rates['25'],
  size: { width: 1280, height: 720 },
  tracks: [{ kind: 'picture', name: 'Main', items }],
});
const before = reel(clip('launch', 'a', 100, 50), clip('paddle', 'b', 0, 50), clip('finish', 'c', 10, 50));

describe('a note on an earlier version', () => {
  it('goes along with its piece when pieces before it are taken out, moved or trimmed', () => {
    expect(whereNow(before, before, 60)).toEqual({ frame: 60, how: 'there' });
    expect(whereNow(before, reel(before.tracks[0]!.items[1]!), 60)).toEqual({ frame: 10, how: 'there' });
    const moved = reel(...[2, 0, 1].map((index) => before.tracks[0]!.items[index]!));
    expect(whereNow(before, moved, 110)).toEqual({ frame: 10, how: 'there' });
    const trimmed = reel(clip('launch', 'a', 110, 40), clip('paddle', 'b', 5, 45));
    // Frame 10 of the second piece is frame 5 of what is left of it.
    expect(whereNow(before, trimmed, 60)).toEqual({ frame: 45, how: 'there' });
  });

  it('says what was cut off, at the end where it was', () => {
    expect(whereNow(before, reel(clip('paddle', 'b', 20, 20)), 60)).toEqual({ frame: 0, how: 'trimmed' });
    expect(whereNow(before, reel(clip('paddle', 'b', 0, 20)), 90)).toEqual({ frame: 19, how: 'trimmed' });
  });

  it('stays at its time when its piece is gone, within the reel', () => {
    expect(whereNow(before, reel(clip('launch', 'a', 100, 50)), 70)).toEqual({ frame: 49, how: 'gone' });
    expect(whereNow(before, reel(), 70)).toEqual({ frame: 0, how: 'gone' });
  });

  it('finds the footage again in a piece with another name', () => {
    const sources = new Map<string, Source>(
      ['a', 'b', 'c'].map((id) => [id, { id, name: id, durationSeconds: 60 }] as const),
    );
    const split = applyCommand(before, { type: 'split', clip: 'paddle', at: 5, newId: 'rest' }, sources);
    if (!split.ok) throw new Error(split.reason);
    expect(whereNow(before, split.reel, 70)).toEqual({ frame: 70, how: 'there' });
    expect(whereNow(before, reel(clip('again', 'b', 15, 10)), 70)).toEqual({ frame: 5, how: 'there' });
  });

  it('is about what lies on top', () => {
    const covered: Reel = {
      ...before,
      tracks: [
        ...before.tracks,
        {
          kind: 'picture',
          name: 'Above',
          items: [{ kind: 'gap', id: 'g', frames: 50 }, clip('close', 'd', 0, 25)],
        },
      ],
    };
    expect(whereNow(covered, reel(clip('close', 'd', 0, 25)), 60)).toEqual({ frame: 10, how: 'there' });
  });

  it('counts in the speed of the piece and in the rate of the reel', () => {
    const fast = reel(clip('launch', 'a', 0, 50, { speed: 200 }));
    expect(whereNow(fast, reel(clip('launch', 'a', 0, 100)), 20)).toEqual({ frame: 40, how: 'there' });
    const held = reel(clip('hold', 'a', 30, 50, { speed: 0 }));
    expect(whereNow(held, reel(clip('hold', 'a', 30, 20, { speed: 0 })), 10)).toEqual({ frame: 10, how: 'there' });
    expect(whereNow(held, reel(clip('hold', 'a', 30, 20, { speed: 0 })), 40)).toEqual({ frame: 19, how: 'trimmed' });
    const at50: Reel = { ...reel(clip('launch', 'a', 200, 100)), rate: { num: 50, den: 1 } };
    expect(whereNow(before, at50, 20)).toEqual({ frame: 40, how: 'there' });
  });
});
