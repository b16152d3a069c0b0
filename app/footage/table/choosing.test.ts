import { describe, expect, it } from 'vitest';
import { choose, chooseAll, nothingChosen, step, stillThere, type RowChoice } from './choosing';

const order = ['a', 'b', 'c', 'd', 'e'];
const ids = (choice: RowChoice) => [...choice.ids].join('');

describe('choosing rows', () => {
  it('one press chooses one row, and leaves the others', () => {
    const first = choose(nothingChosen, order, 'b', 'only');
    expect(ids(choose(first, order, 'd', 'only'))).toBe('d');
  });
  it('one more and one less', () => {
    const two = choose(choose(nothingChosen, order, 'b', 'only'), order, 'd', 'toggle');
    expect(ids(two)).toBe('bd');
    expect(ids(choose(two, order, 'b', 'toggle'))).toBe('d');
  });
  it('a range grows and shrinks from where it began, in both directions', () => {
    const from = choose(nothingChosen, order, 'c', 'only');
    const down = choose(from, order, 'e', 'upTo');
    expect(ids(down)).toBe('cde');
    expect(ids(choose(down, order, 'd', 'upTo'))).toBe('cd');
    expect(ids(choose(down, order, 'a', 'upTo'))).toBe('abc');
  });
  it('a range whose beginning is not shown any more begins at the press', () =>
    expect(ids(choose({ ids: new Set(['x']), at: 'x', from: 'x' }, order, 'b', 'upTo'))).toBe('b'));
  it('steps go to the ends and no further; the first one goes to an end', () => {
    expect(step(nothingChosen, order, 1, 'only').at).toBe('a');
    expect(step(nothingChosen, order, -1, 'only').at).toBe('e');
    const last = choose(nothingChosen, order, 'e', 'only');
    expect(step(last, order, 1, 'only').at).toBe('e');
    expect(ids(step(step(last, order, -1, 'upTo'), order, -1, 'upTo'))).toBe('cde');
    expect(step(nothingChosen, [], 1, 'only')).toBe(nothingChosen);
  });
  it('all, and only those that are still there', () => {
    const all = chooseAll(nothingChosen, order);
    expect(ids(all)).toBe('abcde');
    expect(ids(stillThere(all, ['b', 'e']))).toBe('be');
    expect(stillThere(all, order)).toBe(all);
  });
});
