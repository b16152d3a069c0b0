import { expect, it } from 'vitest';
import { counted, listOf } from '.';

it('one is one, everything else is many', () => {
  expect([0, 1, 2].map((count) => counted(count, 'piece'))).toEqual(['0 pieces', '1 piece', '2 pieces']);
  expect(counted(3, 'loss', 'losses')).toBe('3 losses');
});
it('parts are joined by commas, the last by “and”', () => {
  expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(listOf)).toEqual(['', 'a', 'a and b', 'a, b and c']);
});
