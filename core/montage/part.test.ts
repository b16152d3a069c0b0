import { describe, expect, it } from 'vitest';
import { slotsWithin } from './part';
import type { Slot } from './types';

let ids = 0;
const newId = () => `new${++ids}`;
const slots = (edges: readonly number[], name: string): Slot[] =>
  edges.slice(1).map((end, index) => ({ id: `${name}${index}`, start: edges[index]!, end }));
const edgesOf = (list: readonly Slot[]) => [...list.map(({ start }) => start), list.at(-1)!.end];

describe('slots of a part of the music', () => {
  const old = slots([0, 2, 3.7, 6, 8, 10, 12], 'old');
  it('are made anew inside it; what was moved by hand outside stays, with its piece', () => {
    const made = slots([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12], 'made');
    const next = slotsWithin(old, made, { start: 6, end: 10 }, newId);
    expect(edgesOf(next)).toEqual([0, 2, 3.7, 6, 7, 8, 9, 10, 12]);
    expect(next.slice(0, 3)).toEqual(old.slice(0, 3));
    expect(next.at(-1)).toEqual(old.at(-1));
  });
  it('follow one another also where the part begins and ends within slots', () => {
    const made = slots([0, 2.5, 5, 7.5, 10.1, 12], 'made');
    const next = slotsWithin(old, made, { start: 5, end: 9 }, newId);
    expect(next.every((slot, index) => index === 0 || slot.start === next[index - 1]!.end)).toBe(true);
    expect(edgesOf(next)).toEqual([0, 2, 3.7, 5, 7.5, 10, 12]);
    expect(new Set(next.map(({ id }) => id)).size).toBe(next.length);
  });
  it('are all made anew when the part is everything, and none when it is nothing', () => {
    const made = slots([0, 4, 8, 12], 'made');
    expect(slotsWithin(old, made, { start: 0, end: 12 }, newId)).toEqual(made);
    expect(slotsWithin(old, made, { start: 6, end: 6 }, newId)).toEqual(old);
    expect(slotsWithin([], made, { start: 3, end: 6 }, newId)).toEqual(made);
  });
});
