import { describe, expect, it } from 'vitest';
import { lanes } from '../../data/tasks';
import { concurrencyOf } from './workerKinds';

describe('what a worker takes', () => {
  it('is everything when nothing is said', () => {
    const all = concurrencyOf([], 2);
    expect(Object.keys(all).sort()).toEqual(Object.keys(lanes).sort());
    expect(all).toMatchObject({ reading: 2, rendering: 2, words: 1 });
    expect(Object.values(all).every((count) => count > 0)).toBe(true);
  });
  it('is what was named, as often as was said', () => {
    expect(concurrencyOf(['read', 'render:3'], 1)).toEqual({
      glance: 2,
      reading: 1,
      rendering: 3,
      aside: 0,
      short: 0,
      line: 0,
      words: 0,
    });
  });
  it('is everything again when every kind is named', () => {
    expect(concurrencyOf(['read', 'render', 'words', 'rest'], 4)).toEqual(concurrencyOf([], 4));
  });
});
