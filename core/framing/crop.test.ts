import { describe, expect, it } from 'vitest';
import type { FaceTrack } from '#core/picture';
import { seededRandom } from '#core/signal';
import {
  cropParts,
  cropView,
  cropWidth,
  cropWithin,
  followPath,
  frameStretch,
  isFramed,
  isSameShape,
  pathAt,
  standsStill,
  type MouthTrace,
  type Watched,
} from '.';

const source = { width: 1280, height: 720 };
const phone = { width: 720, height: 1280 };
const wide = cropWidth(source, phone, 1);

const track = (id: string, start: number, end: number, at: (seconds: number) => number, width = 0.1): FaceTrack => ({
  id,
  start,
  end,
  descriptor: null,
  smile: 0,
  size: 'medium',
  boxes: Array.from({ length: Math.round((end - start) * 2) + 1 }, (_, index) => ({
    time: start + index / 2,
    box: { x: at(start + index / 2) - width / 2, y: 0.3, width, height: width * 1.6, score: 0.95 },
  })),
});
const watched = (tracks: FaceTrack[], more: Partial<Watched> = {}): Watched => ({
  size: source,
  tracks,
  objects: [],
  motion: null,
  cuts: [],
  turns: [],
  mouths: [],
  ...more,
});
const mouth = (id: string, start: number, values: number[]): MouthTrace => ({
  track: id,
  start,
  hz: 10,
  values: Float32Array.from(values),
});

describe('a crop that follows', () => {
  it('stands still while what it follows stays in its middle part', () => {
    const { path, follows } = followPath(
      watched([track('a', 0, 20, (t) => 0.4 + 0.01 * Math.sin(t))]),
      { start: 0, end: 20 },
      phone,
      'auto',
    );
    expect(follows).toBe('the face');
    expect(new Set(path.map(([, x]) => x)).size).toBe(1);
    expect(path[0]![1]).toBeCloseTo(0.4, 1);
  });
  it('holds whole faces inside, smoothly, whatever way somebody walks', () => {
    const random = seededRandom(7);
    for (let round = 0; round < 12; round++) {
      const [a, b, c] = [0.2 + random() * 0.2, 0.1 + random() * 0.25, random() * 6];
      // Somebody who walks about: at most some 0.3 picture widths a second, 0.35 a second squared.
      const at = (seconds: number) =>
        0.5 + a * 0.6 * Math.sin(seconds * (0.4 + b) + c) + 0.08 * Math.sin(seconds * 1.3 + a);
      const { path } = followPath(watched([track('a', 0, 30, at)]), { start: 0, end: 30 }, phone, 'auto');
      const middle = (seconds: number) => cropView(pathAt(path, seconds), 1, source, phone).x;
      for (let seconds = 0; seconds <= 30; seconds += 0.1) {
        const face = Math.min(0.95, Math.max(0.05, at(seconds)));
        if (at(seconds) !== face) continue;
        expect(middle(seconds) - wide / 2, `left at ${seconds}`).toBeLessThan(face - 0.05 + 0.012);
        expect(middle(seconds) + wide / 2, `right at ${seconds}`).toBeGreaterThan(face + 0.05 - 0.012);
      }
      // Under 1.2 picture widths a second squared, measured over 0.4 s: the stated bound.
      for (let seconds = 0.4; seconds <= 29.6; seconds += 0.2)
        expect(Math.abs(middle(seconds + 0.4) - 2 * middle(seconds) + middle(seconds - 0.4)) / 0.16).toBeLessThan(1.2);
    }
  });
  it('jumps at a cut and nowhere else', () => {
    const { path } = followPath(
      watched([track('a', 0, 5, () => 0.3), track('b', 5, 10, () => 0.7)], { cuts: [5] }),
      { start: 0, end: 10 },
      phone,
      'auto',
    );
    expect(pathAt(path, 4.98).x).toBeCloseTo(0.3, 1);
    expect(pathAt(path, 5).x).toBeCloseTo(0.7, 1);
    for (let seconds = 0; seconds < 10; seconds += 1 / 30)
      if (Math.abs(seconds - 4.985) > 0.05)
        expect(Math.abs(pathAt(path, seconds + 1 / 30).x - pathAt(path, seconds).x)).toBeLessThan(0.005);
  });
  it('follows who speaks, and goes over while nothing is lost', () => {
    const faces = [track('a', 0, 20, () => 0.2), track('b', 0, 20, () => 0.8)];
    const talk = Array.from({ length: 200 }, (_, index) => index);
    const mouths = [
      mouth(
        'a',
        0,
        talk.map((index) => (index < 100 ? 3 : 0.1)),
      ),
      mouth(
        'b',
        0,
        talk.map((index) => (index < 100 ? 0.1 : 3)),
      ),
    ];
    const { path, follows } = followPath(
      watched(faces, {
        mouths,
        turns: [
          { start: 0.5, end: 9.5 },
          { start: 10.2, end: 19 },
        ],
      }),
      { start: 0, end: 20 },
      phone,
      'auto',
    );
    expect(follows).toBe('the speaker');
    expect(Math.abs(pathAt(path, 5).x - 0.2)).toBeLessThan(wide / 4);
    expect(Math.abs(pathAt(path, 15).x - 0.8)).toBeLessThan(wide / 4);
    expect(standsStill({ subject: 'auto', zoom: 1, keys: [], path }, 1, 7)).toBe(true);
  });
  it('shows both faces where the crop is wide enough', () => {
    const { path, follows } = followPath(
      watched([track('a', 0, 6, () => 0.42), track('b', 0, 6, () => 0.56)]),
      { start: 0, end: 6 },
      phone,
      'auto',
    );
    expect(follows).toBe('both faces');
    expect(pathAt(path, 3).x).toBeCloseTo(0.49, 1);
  });
  it('without faces: a thing, else motion, else the middle', () => {
    const objects = Array.from({ length: 20 }, (_, index) => ({
      time: index / 2,
      boxes: [{ x: 0.7, y: 0.4, width: 0.1, height: 0.1, score: 0.8, label: 'boat' as const }],
    }));
    const follow = (more: Partial<Watched>) => followPath(watched([], more), { start: 0, end: 10 }, phone, 'auto');
    expect(follow({ objects })).toMatchObject({ follows: 'a boat' });
    expect(pathAt(follow({ objects }).path, 5).x).toBeCloseTo(0.75, 1);
    const motion = {
      hz: 10,
      x: new Float32Array(100).fill(0.25),
      y: new Float32Array(100).fill(0.5),
      amount: new Float32Array(100).fill(0.01),
    };
    expect(follow({ motion })).toMatchObject({ follows: 'the motion' });
    expect(pathAt(follow({ motion }).path, 5).x).toBeCloseTo(0.25, 1);
    expect(follow({})).toMatchObject({
      follows: 'the middle',
      path: [
        [0, 0.5, 0.5],
        [10, 0.5, 0.5],
      ],
    });
  });
  it('runs through keys that were set by hand', () => {
    const { path } = followPath(watched([track('a', 0, 12, () => 0.3)]), { start: 0, end: 12 }, phone, 'auto', 1, [
      { seconds: 6, x: 0.62, y: 0.5 },
    ]);
    expect(pathAt(path, 6).x).toBeCloseTo(0.62, 2);
    expect(pathAt(path, 1).x).toBeCloseTo(0.3, 1);
    const fixed = followPath(watched([track('a', 0, 12, () => 0.3)]), { start: 0, end: 12 }, phone, 'fixed', 1, [
      { seconds: 6, x: 0.62, y: 0.5 },
    ]);
    expect(new Set(fixed.path.map(([, x]) => x))).toEqual(new Set([0.62]));
  });
  it('moves up and down in a wide frame, with headroom', () => {
    const tall = { width: 720, height: 1280 };
    const { path } = followPath(
      { ...watched([track('a', 0, 4, () => 0.5)]), size: tall },
      { start: 0, end: 4 },
      { width: 1280, height: 720 },
      'auto',
    );
    const view = cropView(pathAt(path, 2), 1, tall, { width: 1280, height: 720 });
    expect(view.width).toBe(1);
    expect(0.38 / 1).toBeLessThan(view.y);
    expect(view.y).toBeLessThan(0.38 + 0.1);
  });
});

describe('shapes and parts', () => {
  it('a 9:16 crop of 16:9 is 31.6 % wide (81 : 256), never over the edge', () => {
    expect(wide).toBeCloseTo(81 / 256, 6);
    expect(cropView({ x: 0, y: 0.5 }, 1, source, phone).x).toBeCloseTo(81 / 512, 6);
    expect(cropView({ x: 1, y: 1 }, 2, source, phone)).toMatchObject({ x: 1 - 81 / 1024, y: 0.75 });
  });
  it('two speakers are stacked, the left one above; without two it says so', () => {
    const stacked = frameStretch(
      watched([track('b', 0, 10, () => 0.65), track('a', 0, 10, () => 0.35)]),
      { start: 0, end: 10 },
      phone,
      { subject: 'stack', zoom: 1, keys: [] },
    );
    const parts = cropParts(stacked, 5, source, phone);
    expect(parts.map((part) => [part.top, part.height])).toEqual([
      [0, 0.5],
      [0.5, 0.5],
    ]);
    // Close enough that each half shows its own face only.
    expect(stacked.zoom).toBeGreaterThan(1);
    expect(parts[0]!.view.x + parts[0]!.view.width / 2).toBeLessThan(0.6);
    expect(parts[1]!.view.x - parts[1]!.view.width / 2).toBeGreaterThan(0.4);
    expect(parts[0]!.view.x).toBeLessThan(0.45);
    expect(parts[1]!.view.x).toBeGreaterThan(0.55);
    expect(
      frameStretch(watched([track('a', 0, 10, () => 0.25)]), { start: 0, end: 10 }, phone, {
        subject: 'stack',
        zoom: 1,
        keys: [],
      }).follows,
    ).toMatch(/no two faces/);
  });
  it('counts only where the picture fills a frame of another shape, or comes closer', () => {
    const framing = { subject: 'auto' as const, zoom: 1, keys: [], path: [[0, 0.5, 0.5] as [number, number, number]] };
    expect(isFramed(framing, 'fill', source, phone)).toBe(true);
    expect(isFramed(framing, 'blur', source, phone)).toBe(false);
    expect(isFramed(framing, 'fill', source, { width: 1920, height: 1080 })).toBe(false);
    expect(isFramed({ ...framing, zoom: 1.5 }, 'fill', source, { width: 1920, height: 1080 })).toBe(true);
  });
  it('a crop inside a steadied view: worked by hand', () => {
    const outer = { x: 0.52, y: 0.5, width: 0.9, turn: 0 };
    expect(cropWithin(outer, { x: 0.7, y: 0.5, width: 0.3, turn: 0 }, source)).toEqual({
      x: expect.closeTo(0.7, 9) as number,
      y: 0.5,
      width: expect.closeTo(0.27, 9) as number,
      turn: 0,
    });
    const turned = cropWithin(
      { x: 0.5, y: 0.5, width: 1, turn: Math.PI / 2 },
      { x: 0.75, y: 0.5, width: 0.3, turn: 0 },
      source,
    );
    // A quarter of 1280 pixels to the right becomes as many downwards.
    expect(turned.x).toBeCloseTo(0.5, 6);
    expect(turned.y).toBeCloseTo(0.5 + 320 / 720, 6);
  });
});

it('a shape is the same as nearly as pixels allow: 1920×1080 and 854×480 are, 4:3 and 1.85:1 are not', () => {
  const frame = { width: 1920, height: 1080 };
  expect([854, 853, 852].map((width) => isSameShape({ width, height: 480 }, frame))).toEqual([true, true, true]);
  expect(isSameShape({ width: 640, height: 480 }, frame)).toBe(false);
  expect(isSameShape({ width: 1998, height: 1080 }, frame)).toBe(false);
});
