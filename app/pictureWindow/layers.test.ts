// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { fittingBox, layersOf } from './layers';

const box = (element: Element, left: number, top: number, width: number, height: number) => {
  element.getBoundingClientRect = () => ({ left, top, width, height }) as DOMRect;
  return element;
};
/** A frame of 400 × 225 at (100, 50) with what is put into it. */
function frameOf(...inside: Element[]): Element {
  const frame = document.createElement('div');
  frame.append(...inside);
  return box(frame, 100, 50, 400, 225);
}
const canvas = (width: number, height: number) => Object.assign(document.createElement('canvas'), { width, height });

describe('the pictures of a frame', () => {
  it('lie where the screen shows them: an upright one in the middle, as high as the frame', () => {
    const upright = canvas(720, 1280);
    const layers = layersOf(frameOf(box(upright, 100, 50, 400, 225)));
    expect(layers).toHaveLength(1);
    const [{ source, x, y, width, height }] = layers as [(typeof layers)[0]];
    expect(source).toBe(upright);
    expect([x, y, width, height].map((each) => Number(each.toFixed(4)))).toEqual([0.3418, 0, 0.3164, 1]);
  });
  it('come from the lowest to the highest; words, and what has no pixels yet, are left away', () => {
    const film = document.createElement('video');
    Object.assign(film, {});
    Object.defineProperties(film, { videoWidth: { value: 1280 }, videoHeight: { value: 720 } });
    const early = document.createElement('video');
    const words = document.createElement('span');
    const over = canvas(160, 90);
    const frame = frameOf(
      box(film, 100, 50, 400, 225),
      box(early, 100, 50, 400, 225),
      words,
      box(over, 300, 50, 200, 112.5),
      box(canvas(10, 10), 100, 50, 0, 0),
    );
    expect(layersOf(frame).map(({ source, x, width }) => [source, x, width])).toEqual([
      [film, 0, 1],
      [over, 0.5, 0.5],
    ]);
  });
  it('are none of a frame that is not shown', () =>
    expect(layersOf(box(frameOf(canvas(9, 9)), 0, 0, 0, 0))).toEqual([]));
});

it('a frame is as large as fits its window, in the middle', () => {
  expect(fittingBox({ width: 400, height: 225 }, { width: 1920, height: 1200 })).toEqual({
    x: 0,
    y: 60,
    width: 1920,
    height: 1080,
  });
  expect(fittingBox({ width: 9, height: 16 }, { width: 1600, height: 900 })).toEqual({
    x: 546.875,
    y: 0,
    width: 506.25,
    height: 900,
  });
});
