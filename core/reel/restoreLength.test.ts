import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { applyCommand, clipsOf, stretchShown, trimsTo, type Clip, type Reel, type ReelCommand, type Source } from '.';

const clip = (own: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id: 'a',
  media: 'pond',
  name: 'Launch',
  sourceIn: 100,
  frames: 50,
  ...own,
});
const reelOf = (own: Clip): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 'Race',
  rate: rates['25'],
  size: { width: 1280, height: 720 },
  tracks: [{ kind: 'picture', name: 'Main', items: [own] }],
});
const pond: Source = { id: 'pond', name: 'pond.mp4', durationSeconds: 20 };
const photo: Source = { id: 'pond', name: 'pond.jpg', durationSeconds: 0, photo: true };
const after = (own: Clip, command: ReelCommand | null, source = pond): Clip => {
  if (!command) return own;
  const result = applyCommand(reelOf(own), command, new Map([['pond', source]]));
  if (!result.ok) throw new Error(result.reason);
  return clipsOf(result.reel)[0]!;
};
const lengthen = (own: Clip, start: number, end: number, source = pond) =>
  after(own, trimsTo(own, { start, end }, source, rates['25']), source);

describe('a piece brought to a stretch of its source', () => {
  it('gets longer and shorter at both ends, also where the stretches do not meet', () => {
    expect(lengthen(clip(), 2, 8)).toMatchObject({ sourceIn: 50, frames: 150 });
    expect(lengthen(clip(), 4.4, 5)).toMatchObject({ sourceIn: 110, frames: 15 });
    expect(lengthen(clip(), 10, 12)).toMatchObject({ sourceIn: 250, frames: 50 });
    expect(lengthen(clip(), 0, 2)).toMatchObject({ sourceIn: 0, frames: 50 });
  });
  it('takes what there is where the stretch reaches beyond', () =>
    expect(lengthen(clip(), -3, 99)).toMatchObject({ sourceIn: 0, frames: 500 }));
  it('at another speed shows the same stretch in another time', () => {
    expect(lengthen(clip({ speed: 200 }), 2, 10)).toMatchObject({ sourceIn: 50, frames: 100, speed: 200 });
    expect(lengthen(clip({ speed: 50 }), 2, 6)).toMatchObject({ sourceIn: 50, frames: 200 });
  });
  it('a photo stands as long as it stood; what shows it already, and a held frame, stay', () => {
    expect(lengthen(clip({ sourceIn: 0 }), 0, 4, photo)).toMatchObject({ frames: 100 });
    expect(trimsTo(clip(), stretchShown(clip(), rates['25']), pond, rates['25'])).toBeNull();
    expect(trimsTo(clip({ speed: 0 }), { start: 0, end: 4 }, pond, rates['25'])).toBeNull();
  });
});
