import { describe, expect, it } from 'vitest';
import { lookHz } from '#core/readings';
import { prepare } from './score';
import { arrangements, tellStory } from './story';
import { footage } from './testFootage';
import type { Footage, Moment, MomentKind } from './types';

const none = { people: 0, talk: 0, action: 0, camera: 0, sound: 0, picture: 0 };
const moment = (media: string, start: number, kind: MomentKind, score = 50): Moment => ({
  media,
  start,
  end: start + 3,
  kind,
  score,
  worth: 50,
  shares: none,
  kept: 'score',
});
/** A file that looks the same all the time. */
const shot = (id: string, light: number): Footage => ({
  ...footage(60, {}, [], id),
  look: { hz: lookHz, cells: 2, values: new Float32Array(60 * lookHz * 2).fill(light) },
});
const files = new Map([shot('a', 0.2), shot('b', 0.5), shot('c', 0.8)].map((each) => [each.id, prepare(each)]));
const told = (moments: Moment[], arrangement?: Parameters<typeof tellStory>[2]) =>
  tellStory(moments, files, arrangement).map(({ moment: { media, start }, because }) =>
    [`${media}${start}`, because?.split(':')[0]].filter(Boolean).join(' '),
  );

describe('the order of a reel', () => {
  const day = [
    moment('a', 0, 'talk'),
    moment('b', 10, 'camera'),
    moment('c', 20, 'faces'),
    moment('b', 30, 'reaction', 70),
    moment('a', 40, 'talk'),
  ];
  it('opens with the place, ends with applause, and is by time in between', () =>
    expect(told(day)).toEqual(['b10 opens the reel', 'a0', 'c20', 'a40', 'b30 ends the reel']));
  it('is strictly by time when that is wanted, and for a handful of pieces', () => {
    expect(told(day, 'time')).toEqual(['a0', 'b10', 'c20', 'b30', 'a40']);
    expect(told(day.slice(0, 3))).toEqual(['a0', 'b10', 'c20']);
  });
  it('loses and doubles nothing, whatever the arrangement', () => {
    for (const arrangement of arrangements)
      expect(tellStory(day, files, arrangement).map(({ moment: each }) => each)).toHaveLength(day.length);
    expect(new Set(tellStory(day, files, 'energy').map(({ moment: each }) => each))).toEqual(new Set(day));
  });
  it('shows one person after the other; what shows nobody stays with what it follows', () => {
    const list = [
      moment('a', 0, 'talk'),
      moment('b', 10, 'action'),
      moment('c', 20, 'talk'),
      moment('a', 30, 'talk'),
      moment('c', 40, 'talk'),
    ];
    const seen: Record<string, { id: string; ranges: { start: number; end: number }[] }[]> = {
      a: [{ id: 'captain', ranges: [{ start: 0, end: 60 }] }],
      c: [
        { id: 'captain', ranges: [{ start: 20, end: 21 }] },
        { id: 'builder', ranges: [{ start: 20, end: 60 }] },
      ],
    };
    const order = tellStory(list, files, 'people', (media) => seen[media] ?? []);
    expect(order.map(({ moment: { media, start } }) => media + start)).toEqual(['a0', 'b10', 'a30', 'c20', 'c40']);
    // With nobody known it is by time.
    expect(tellStory(list, files, 'people').map(({ moment: { start } }) => start)).toEqual([0, 10, 20, 30, 40]);
  });
  it('shows one kind after the other: the place, what is said, what happens, who was there', () => {
    const kinds: MomentKind[] = ['talk', 'action', 'camera', 'group', 'action', 'talk'];
    const list = kinds.map((kind, index) => moment('abc'[index % 3]!, index * 5, kind));
    expect(tellStory(list, files, 'kind').map(({ moment: { kind } }) => kind)).toEqual([
      'camera',
      'talk',
      'talk',
      'action',
      'action',
      'group',
    ]);
  });
  it('rises to the strongest and falls from there', () => {
    const list = [60, 20, 40, 90, 30, 50, 70, 80].map((score, index) =>
      moment('abc'[(score / 10) % 3]!, index * 4, 'faces', score),
    );
    const scores = tellStory(list, files, 'energy').map(({ moment: { score } }) => score);
    const top = scores.indexOf(90);
    expect(top).toBeGreaterThan(3);
    expect(top).toBeLessThan(7);
    expect(scores.slice(0, top)).toEqual(scores.slice(0, top).sort((a, b) => a - b));
    expect(scores.slice(top)).toEqual(scores.slice(top).sort((a, b) => b - a));
  });
  it('puts another shot between two that look the same', () => {
    const list = [
      moment('c', 0, 'scenery'),
      moment('a', 0, 'talk'),
      moment('a', 10, 'talk'),
      moment('b', 20, 'faces'),
      moment('c', 30, 'group'),
    ];
    expect(told(list)).toEqual([
      'c0 opens the reel',
      'a0',
      'b20 stands between two shots that look the same',
      'a10',
      'c30 ends the reel',
    ]);
  });
  it('what goes on without a gap is no jump', () => {
    const list = [
      moment('c', 0, 'scenery'),
      moment('a', 0, 'talk'),
      moment('a', 3, 'talk'),
      moment('b', 20, 'faces'),
      moment('c', 30, 'group'),
    ];
    expect(told(list).slice(1, 4)).toEqual(['a0', 'a3', 'b20']);
  });
});
