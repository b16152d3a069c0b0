import { framingSubjects } from './types';
import { describe, expect, it } from 'vitest';
import type { ObjectBox, ObjectSample } from '#core/picture';

import { pathAt } from './crop';
import { followPath, type Watched } from './follow';
import { pointedAt, thingsAt, thingSubject, thingTrack } from './things';

const box = (label: ObjectBox['label'], x: number, y: number, side = 0.1): ObjectBox => ({
  label,
  x: x - side / 2,
  y: y - side / 2,
  width: side,
  height: side,
  score: 0.8,
});
/** Two boats, one going right from 0.2 by 0.05 a second, one at rest at 0.8; a dog beside it. The first is not seen at 4 s. */
const pond: ObjectSample[] = Array.from({ length: 10 }, (_, time) => ({
  time,
  boxes: [
    ...(time === 4 ? [] : [box('boat', 0.2 + 0.05 * time, 0.6)]),
    box('boat', 0.8, 0.5, 0.14),
    box('dog', 0.75, 0.5),
  ],
}));
const middles = (track: ReturnType<typeof thingTrack>) =>
  track?.boxes.map(({ time, box: { x, width } }) => [time, Number((x + width / 2).toFixed(3))]);

describe('a thing that was pointed at', () => {
  it('is a subject that can be written down and read again', () => {
    const thing = { label: 'potted plant', seconds: 12.5, x: 0.25, y: 0.125 };
    expect(pointedAt(thingSubject(thing))).toEqual(thing);
    expect(
      [thingSubject(thing), 'face:3.1', 'auto', 'thing:1:2', 'thing:1.00:0.500:0.500:<b>'].map((subject) =>
        framingSubjects.test(subject),
      ),
    ).toEqual([true, true, true, false, false]);
    expect(pointedAt('face:3.1')).toBeNull();
  });
  it('is followed both ways from sample to sample, past a sample without it', () => {
    expect(middles(thingTrack(pond, { label: 'boat', seconds: 3.2, x: 0.35, y: 0.6 }, { start: 0, end: 10 }))).toEqual(
      [0, 1, 2, 3, 5, 6, 7, 8, 9].map((time) => [time, Number((0.2 + 0.05 * time).toFixed(3))]),
    );
    expect(
      middles(thingTrack(pond, { label: 'boat', seconds: 3.2, x: 0.8, y: 0.5 }, { start: 0, end: 10 }))!.every(
        ([, x]) => x === 0.8,
      ),
    ).toBe(true);
  });
  it('is not another one that appears far off; gone for three samples, it has left', () => {
    const leaves = pond.map(({ time, boxes }) => ({
      time,
      boxes: time < 3 ? boxes.slice(0, 1) : boxes.filter((each) => each.label === 'boat' && each.x > 0.6),
    }));
    expect(middles(thingTrack(leaves, { label: 'boat', seconds: 0, x: 0.2, y: 0.6 }, { start: 0, end: 10 }))).toEqual([
      [0, 0.2],
      [1, 0.25],
      [2, 0.3],
    ]);
  });
  it('is nothing outside its shot, or where nothing of its kind is', () => {
    expect(thingTrack(pond, { label: 'boat', seconds: 12, x: 0.2, y: 0.6 }, { start: 0, end: 10 })).toBeNull();
    expect(thingTrack(pond, { label: 'cat', seconds: 2, x: 0.2, y: 0.6 }, { start: 0, end: 10 })).toBeNull();
    expect([thingsAt(pond, 2.2).length, thingsAt(pond, 11).length, thingsAt([], 1).length]).toEqual([3, 0, 0]);
  });
});

describe('a crop on a thing', () => {
  const watched: Watched = {
    size: { width: 1920, height: 1080 },
    tracks: [],
    objects: pond,
    motion: null,
    cuts: [],
    turns: [],
    mouths: [],
  };
  const frame = { width: 1080, height: 1920 };
  const follow = (subject: Parameters<typeof followPath>[3], over: Partial<Watched> = {}) => {
    const { path, follows } = followPath({ ...watched, ...over }, { start: 0, end: 9.9 }, frame, subject);
    return { follows, at: (seconds: number) => pathAt(path, seconds).x };
  };
  it('left alone it takes the larger boat; pointed at the other, it goes with that one', () => {
    expect(follow('auto').at(4)).toBeGreaterThan(0.7);
    const small = follow(thingSubject({ label: 'boat', seconds: 3, x: 0.35, y: 0.6 }));
    expect(small.follows).toBe('a boat');
    for (const seconds of [0, 3, 6, 9])
      expect(Math.abs(small.at(seconds) - (0.2 + 0.05 * seconds)), `at ${seconds} s`).toBeLessThan(0.05);
  });
  it('behind a cut it takes the largest of that kind, and the dog when it was the dog', () => {
    const cut = {
      cuts: [5],
      objects: pond.map(({ time, boxes }) => ({
        time,
        boxes: time < 5 ? boxes : boxes.map((each) => (each.label === 'boat' ? { ...each, x: 0.1 } : each)),
      })),
    };
    expect(follow(thingSubject({ label: 'boat', seconds: 3, x: 0.8, y: 0.5 }), cut).at(7)).toBeLessThan(0.3);
    expect(follow(thingSubject({ label: 'dog', seconds: 3, x: 0.75, y: 0.5 }), cut).at(7)).toBeGreaterThan(0.65);
  });
});
