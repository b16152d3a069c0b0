import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { mergeOrder, mergeRuns, mergeValues, sameValue } from '.';

const order = (base: string, mine: string, theirs: string) => {
  const merged = mergeOrder([...base], [...mine], [...theirs]);
  return 'clash' in merged ? `clash ${merged.clash}` : merged.order.join('');
};

describe('orders merged three ways', () => {
  it.each([
    ['taken out here and there', 'abcdef', 'abdef', 'abcde', 'abde'],
    ['put in at different places', 'abcd', 'abXcd', 'abcdY', 'abXcdY'],
    ['put in at the same place: both, ours right behind its neighbour', 'ab', 'aXb', 'aYb', 'aXYb'],
    ['the first', 'ab', 'Xab', 'abY', 'XabY'],
    ['moved here, taken out elsewhere there', 'abcdef', 'acdefb', 'abcdf', 'acdfb'],
    ['moved here and there, not the same', 'abcdef', 'bacdef', 'abcdfe', 'bacdfe'],
    ['moved here, put in behind it there', 'abcd', 'bcda', 'aXbcd', 'Xbcda'],
    ['the same done on both sides is done once', 'abcd', 'acdXb', 'acdXb', 'acdXb'],
    ['put behind something that is gone there', 'abc', 'abXc', 'ac', 'aXc'],
  ])('%s', (_, base, mine, theirs, wanted) => expect(order(base, mine, theirs)).toBe(wanted));
  it('what both moved to different places is a clash', () => expect(order('abcde', 'bcdea', 'bcade')).toBe('clash a'));

  // Of any three-way merge: who changed nothing takes over all of the other (Khanna, Kunal & Pierce 2007, section 4).
  it('of a side that changed nothing is the other side', () => {
    const random = seededRandom(4);
    for (let round = 0; round < 300; round++) {
      const base = Array.from({ length: 12 }, (_, index) => `${index}`);
      const changed = base.filter(() => random() < 0.8).sort(() => random() - 0.5);
      changed.splice(Math.floor(random() * 5), 0, 'new');
      expect(mergeOrder(base, changed, base)).toEqual({ order: changed });
      expect(mergeOrder(base, base, changed)).toEqual({ order: changed });
      expect(mergeOrder(base, changed, changed)).toEqual({ order: changed });
    }
  });
  it('of thousands is made at once', () => {
    const base = Array.from({ length: 5000 }, (_, index) => `${index}`);
    const mine = [...base.slice(10), ...base.slice(0, 10)];
    const theirs = base.filter((_, index) => index % 7 !== 3);
    const merged = mergeOrder(base, mine, theirs);
    expect('order' in merged && merged.order).toEqual(mine.filter((id) => Number(id) % 7 !== 3));
  });
});

describe('plain data merged three ways', () => {
  const boat = {
    name: 'Otter',
    crew: [
      { id: 'a', seat: 1 },
      { id: 'b', seat: 2 },
    ],
    tags: ['wet', 'slow'],
    paint: { hull: 'red' },
  };
  const change = (what: Partial<typeof boat> & { tow?: number }) => ({ ...boat, ...what });
  it('takes every field and every named thing from whoever changed it', () => {
    const mine = change({
      name: 'Heron',
      crew: [{ id: 'a', seat: 9 }, boat.crew[1]!],
      tags: ['wet', 'slow', 'sunk'],
      tow: 3,
    });
    const theirs = change({
      crew: [boat.crew[1]!, { id: 'c', seat: 3 }, boat.crew[0]!],
      tags: ['slow'],
      paint: { hull: 'blue' },
    });
    expect(mergeValues({ base: boat, mine, theirs })).toEqual({
      value: {
        name: 'Heron',
        crew: [boat.crew[1], { id: 'c', seat: 3 }, { id: 'a', seat: 9 }],
        tags: ['slow', 'sunk'],
        paint: { hull: 'blue' },
        tow: 3,
      },
    });
  });
  it.each([
    ['the same field', change({ name: 'Heron' }), change({ name: 'Coot' }), ['name']],
    ['deep inside', change({ paint: { hull: 'blue' } }), change({ paint: { hull: 'green' } }), ['paint', 'hull']],
    [
      'a thing of a list',
      change({ crew: [{ id: 'a', seat: 5 }, boat.crew[1]!] }),
      change({ crew: [{ id: 'a', seat: 6 }, boat.crew[1]!] }),
      ['crew', 'a', 'seat'],
    ],
    [
      'taken out here, changed there',
      change({ crew: [boat.crew[1]!] }),
      change({ crew: [{ id: 'a', seat: 6 }, boat.crew[1]!] }),
      ['crew', 'a'],
    ],
  ])('clashes where both changed %s', (_, mine, theirs, place) => {
    expect(mergeValues({ base: boat, mine, theirs })).toEqual({ clash: place });
    expect(mergeValues({ base: boat, mine: theirs, theirs: mine })).toEqual({ clash: place });
  });
  it('a field that one side took away is gone; the same on both sides is no clash', () => {
    const { tags: _, ...mine } = boat;
    expect(mergeValues({ base: boat, mine, theirs: change({ name: 'Coot' }) })).toEqual({
      value: { ...mine, name: 'Coot' },
    });
    expect(mergeValues({ base: boat, mine: change({ name: 'X' }), theirs: change({ name: 'X' }) })).toEqual({
      value: change({ name: 'X' }),
    });
  });
  it('compares without regard to the order of fields, and to fields that are undefined', () => {
    expect(sameValue({ a: 1, b: [{ c: 2 }] }, { b: [{ c: 2, d: undefined }], a: 1 })).toBe(true);
    expect(sameValue({ a: [1, 2] }, { a: [2, 1] })).toBe(false);
    expect(sameValue([], {})).toBe(false);
  });
});

describe('lists of things without names merged three ways', () => {
  const words = (text: string) => text.split(' ');
  const merged = (base: string, mine: string, theirs: string) =>
    mergeRuns(words(base), words(mine), words(theirs))?.join(' ') ?? null;
  it.each([
    ['the otter paddles a boat', 'the heron paddles a boat', 'the otter paddles a raft', 'the heron paddles a raft'],
    [
      'the otter paddles a boat',
      'otter paddles a boat',
      'the otter paddles a boat slowly',
      'otter paddles a boat slowly',
    ],
    ['a a a a', 'b a a a', 'a a a b', 'b a a b'],
    ['one two three', 'one two three', 'one three', 'one three'],
    ['one two three', 'one 2 three', 'one 2 three', 'one 2 three'],
    ['one two three', 'one 2 three', 'one two drei', 'one 2 drei'],
  ])('%s: %s and %s', (base, mine, theirs, wanted) => {
    expect(merged(base, mine, theirs)).toBe(wanted);
    expect(merged(base, theirs, mine)).toBe(wanted);
  });
  it.each([
    ['one two three', 'one 2 three', 'one zwei three'],
    ['one two three', 'one 2 3', 'one two drei'],
    ['one two', 'one and two', 'one 2'],
    ['one two', 'one and two', 'one or two'],
  ])('the same place, or something put in beside it: %s, %s, %s', (base, mine, theirs) =>
    expect(merged(base, mine, theirs)).toBeNull(),
  );
});
