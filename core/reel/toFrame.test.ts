import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { applyCommand, piecesToFrame, type Clip, type Reel, type Source } from '.';

const clip = (id: string, media: string, own: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id,
  media,
  name: id,
  sourceIn: 50,
  frames: 100,
  ...own,
});
const reel: Reel = {
  schema: 'BrightReel.Reel.1',
  name: 'Race',
  rate: rates['25'],
  size: { width: 1920, height: 1080 },
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [clip('a', 'wide'), clip('b', 'tall', { speed: 200 }), clip('c', 'photo', { sourceIn: 0 })],
    },
    { kind: 'picture', name: 'Above 1', items: [clip('d', 'wide', { fit: 'blur' })] },
    { kind: 'sound', name: 'Sound', items: [clip('e', 'wide')] },
  ],
};
const sources = new Map<string, Source>(
  ['wide', 'tall', 'photo'].map((id) => [id, { id, name: id, durationSeconds: 60, photo: id === 'photo' }]),
);
const pictures: Record<string, { width: number; height: number }> = {
  wide: { width: 1920, height: 1080 },
  tall: { width: 1080, height: 1920 },
};
const pictureOf = (media: string) => pictures[media] ?? null;
const inShape = (own: Reel, width: number, height: number): Reel => {
  const result = applyCommand(own, { type: 'format', size: { width, height } }, sources);
  if (!result.ok) throw new Error(result.reason);
  return result.reel;
};

describe('another shape', () => {
  it('is filled unless somebody chose bars; more or fewer lines change nothing', () => {
    expect(inShape(reel, 1080, 1920).fit).toBe('fill');
    expect(inShape({ ...reel, fit: 'bars' }, 1080, 1920).fit).toBe('bars');
    expect(inShape(reel, 1280, 720).fit).toBeUndefined();
  });
  it('needs framing where films have another one; photos move, bars and blurred copies show all', () => {
    expect(piecesToFrame(reel, pictureOf)).toEqual([]);
    const square = piecesToFrame(inShape(reel, 1080, 1080), pictureOf);
    expect(square.map((each) => each.clip)).toEqual(['a', 'b']);
    // Frames 50 to 150 at 25 a second; at double speed twice as much of the source.
    expect(square.map(({ stretch: { media, start, end } }) => [media, start, end])).toEqual([
      ['wide', 2, 6],
      ['tall', 2, 10],
    ]);
    expect(piecesToFrame(inShape(reel, 1080, 1920), pictureOf).map((each) => each.clip)).toEqual(['a']);
  });
  it('keeps what was chosen by hand', () => {
    const keys = [{ seconds: 3, x: 0.2, y: 0.5 }];
    const framing = { subject: 'auto' as const, zoom: 1.5, keys, path: [] };
    const own = { ...reel, tracks: [{ ...reel.tracks[0]!, items: [clip('a', 'wide', { framing })] }] };
    expect(piecesToFrame(inShape(own, 1080, 1080), pictureOf)[0]!.stretch).toMatchObject({ zoom: 1.5, keys });
  });
});
