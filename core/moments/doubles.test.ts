import { describe, expect, it } from 'vitest';
import { prepare } from '.';
import { areDoubles, profileOf } from './doubles';
import { footage } from './testFootage';

/** A second take of a thing that moves; the pictures are alike but for what is given. */
const take = (id: string, clothes: string | null, tint = 0.1, from = 2, range = { start: from, end: from + 4 }) => {
  const moves = (t: number) => (t >= from && t < from + 4 ? 0.5 + 0.4 * Math.sin((t - from) * 3) : 0.1);
  const own = footage(
    12,
    { motion: moves, faces: () => 1, faceArea: () => 0.04 },
    clothes ? [{ kind: 'coloured', label: `${clothes} clothes`, start: 0, end: 12 }] : [],
    id,
  );
  const grids = (hz: number, cells: number, value: number) => ({
    hz,
    cells,
    values: new Float32Array(12 * hz * cells).fill(value),
  });
  return profileOf(prepare({ ...own, look: grids(2, 24, 0.4), tint: grids(1, 24, tint) }), range, 'action');
};

describe('two takes of what is seen', () => {
  it('are one thing when they look and move alike', () =>
    expect(areDoubles(take('a', 'red'), take('b', 'red', 0.105, 5))).toBe(true));
  it('are not when people wear something else', () =>
    expect(areDoubles(take('a', 'red'), take('b', 'blue'))).toBe(false));
  it('clothes that are not seen say nothing', () => expect(areDoubles(take('a', 'red'), take('b', null))).toBe(true));
  it('are one thing when one is a part of the other, which goes on', () => {
    const long = (tint = 0.1) => take('b', 'red', tint, 5, { start: 1, end: 11.5 });
    expect(areDoubles(take('a', 'red'), long())).toBe(true);
    expect(areDoubles(long(), take('a', 'red'))).toBe(true);
    expect(areDoubles(take('a', 'red'), long(0.2))).toBe(false);
    // Where nothing moves as it does in the part, it is not there.
    expect(areDoubles(take('a', 'red'), take('b', 'red', 0.1, 20, { start: 1, end: 11.5 }))).toBe(false);
  });
  it('are not where the place has other colours', () =>
    expect(areDoubles(take('a', null), take('b', null, 0.2))).toBe(false));
});
