import { describe, expect, it } from 'vitest';
import { combinations, countCombinations } from './combinations';

const list = (name: string, count: number): string[] => Array.from({ length: count }, (_, index) => `${name}${index}`);
const text = (all: string[][]) => all.map((pieces) => pieces.join(' '));

describe('every combination', () => {
  it('4 × 4 × 2 = 32, each once, the last group changing fastest', () => {
    const groups = [list('o', 4), list('m', 4), list('e', 2)];
    expect(countCombinations(groups)).toBe(32);
    const all = text(combinations(groups));
    expect(new Set(all).size).toBe(32);
    expect(all.slice(0, 3)).toEqual(['o0 m0 e0', 'o0 m0 e1', 'o0 m1 e0']);
    expect(all.at(-1)).toBe('o3 m3 e1');
  });
  it('the same group may serve twice', () => {
    const own = list('x', 3);
    expect(text(combinations([own, own]))).toEqual([
      'x0 x0',
      'x0 x1',
      'x0 x2',
      'x1 x0',
      'x1 x1',
      'x1 x2',
      'x2 x0',
      'x2 x1',
      'x2 x2',
    ]);
  });
  it('nothing of nothing, and nothing with an empty group', () => {
    expect(countCombinations([])).toBe(0);
    expect(combinations([list('a', 3), []])).toEqual([]);
  });
  it('fewer than all are different ones, spread so that every piece has its turn', () => {
    for (const most of [4, 8, 12]) {
      const some = combinations([list('o', 4), list('m', 4), list('e', 2)], most);
      expect(new Set(text(some)).size).toBe(most);
      for (const place of [0, 1]) expect(new Set(some.map((pieces) => pieces[place]!)).size).toBe(Math.min(4, most));
    }
  });
});
