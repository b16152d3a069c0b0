import { describe, expect, it } from 'vitest';
import type { FaceTrack } from '#core/picture';
import { boxAt, changeIn, MouthWatch, speakerIn, type Grey, type MouthTrace } from './mouths';

const size = { width: 100, height: 60 };
const box = (x: number, y: number) => ({ x, y, width: 0.3, height: 0.5, score: 1 });
const track = (id: string, ...boxes: [time: number, x: number, y: number][]): FaceTrack => ({
  id,
  start: boxes[0]![0],
  end: boxes.at(-1)![0],
  descriptor: null,
  smile: 0,
  size: 'medium',
  boxes: boxes.map(([time, x, y]) => ({ time, box: box(x, y) })),
});
/** A grey picture with rectangles (in shares of it) of other levels. */
function picture(...spots: { x: number; y: number; width: number; height: number; level: number }[]): Grey {
  const values = new Uint8Array(size.width * size.height).fill(100);
  for (const spot of spots)
    for (let y = Math.round(spot.y * size.height); y < Math.round((spot.y + spot.height) * size.height); y++)
      values.fill(
        spot.level,
        y * size.width + Math.round(spot.x * size.width),
        y * size.width + Math.round((spot.x + spot.width) * size.width),
      );
  return { ...size, values };
}
/** What fills the mouth, or the eyes, of a face whose box begins there. */
const mouthOf = (x: number, y: number, level: number) => ({
  x: x + 0.3 * 0.22,
  y: y + 0.5 * 0.62,
  width: 0.3 * 0.56,
  height: 0.5 * 0.36,
  level,
});
const eyesOf = (x: number, y: number, level: number) => ({
  x: x + 0.3 * 0.15,
  y: y + 0.5 * 0.15,
  width: 0.3 * 0.7,
  height: 0.5 * 0.35,
  level,
});

describe('the box of a face', () => {
  const moving = track('a', [1, 0.1, 0.2], [3, 0.3, 0.2], [4, 0.3, 0.4]);
  it('lies between its samples in proportion to time', () => {
    expect(boxAt(moving, 2)).toMatchObject({ x: expect.closeTo(0.2, 9) as number, y: 0.2 });
    expect(boxAt(moving, 3.5)!.y).toBeCloseTo(0.3, 9);
    expect([boxAt(moving, 1)!.x, boxAt(moving, 4)!.y]).toEqual([0.1, 0.4]);
  });
  it('is nowhere before and after it is seen', () =>
    expect([boxAt(moving, 0.9), boxAt(moving, 4.1), boxAt({ start: 0, end: 9, boxes: [] }, 1)]).toEqual([
      null,
      null,
      null,
    ]));
});

describe('change in a part of a face', () => {
  it('is the mean difference of grey levels inside it, and of nothing outside', () => {
    const part = { left: 0, right: 1, top: 0, bottom: 1 };
    const half = { x: 0.1, y: 0.1, width: 0.15, height: 0.5, level: 140 };
    expect(changeIn(picture(), picture(half), { x: 0.1, y: 0.1, width: 0.3, height: 0.5 }, part)).toBeCloseTo(20, 6);
    expect(changeIn(picture(), picture(half), { x: 0.5, y: 0.1, width: 0.3, height: 0.5 }, part)).toBe(0);
  });
  it('a box over the edge of the picture counts what is in it', () =>
    expect(
      changeIn(
        picture(),
        picture({ x: 0, y: 0, width: 1, height: 1, level: 110 }),
        { x: 0.9, y: 0.8, width: 0.3, height: 0.5 },
        { left: 0, right: 1, top: 0, bottom: 1 },
      ),
    ).toBe(10));
});

describe('mouths that are watched', () => {
  const faces = [track('left', [0, 0.1, 0.3], [10, 0.1, 0.3]), track('right', [0, 0.6, 0.3], [10, 0.6, 0.3])];
  const watch = (pictures: Grey[]) => {
    const watching = new MouthWatch(faces, 2, 10);
    for (const each of pictures) watching.push(each);
    return new Map(watching.traces().map((each) => [each.track, each]));
  };
  it('only the mouth that moves has a trace; the first picture has nothing before it', () => {
    const traces = watch([picture(), picture(mouthOf(0.1, 0.3, 160)), picture()]);
    expect([...traces.get('left')!.values].map(Math.round)).toEqual([0, 60, 60]);
    expect([...traces.get('right')!.values]).toEqual([0, 0, 0]);
    expect([traces.get('left')!.start, traces.get('left')!.hz]).toEqual([2, 10]);
  });
  it('a head that moves as a whole does not speak', () => {
    const traces = watch([picture(), picture(mouthOf(0.1, 0.3, 160), eyesOf(0.1, 0.3, 160))]);
    expect(traces.get('left')!.values[1]).toBeLessThan(6);
  });
});

describe('who speaks', () => {
  const mouth = (id: string, level: number, start = 0): MouthTrace => ({
    track: id,
    start,
    hz: 10,
    values: new Float32Array(100).fill(level),
  });
  it('is whose mouth moves most, when it does so clearly', () => {
    expect(speakerIn({ start: 1, end: 4 }, [mouth('a', 1), mouth('b', 3)])).toBe('b');
    expect(speakerIn({ start: 1, end: 4 }, [mouth('a', 3), mouth('b', 3.2)])).toBeNull();
  });
  it('nobody, where nobody was watched', () => {
    expect(speakerIn({ start: 20, end: 24 }, [mouth('a', 1), mouth('b', 3)])).toBeNull();
    expect(speakerIn({ start: 1, end: 4 }, [])).toBeNull();
  });
});
