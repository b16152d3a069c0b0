import { expect, it } from 'vitest';
import { landedAt } from './landedAt';

it.each([
  ['A before D', 0, 3, 'before', 'BCAD'],
  ['A after D', 0, 3, 'after', 'BCDA'],
  ['D before A', 3, 0, 'before', 'DABC'],
  ['D after A', 3, 0, 'after', 'ADBC'],
  ['B after A, where it is', 1, 0, 'after', 'ABCD'],
  ['B before C, where it is', 1, 2, 'before', 'ABCD'],
  ['X of elsewhere before A', -1, 0, 'before', 'XABCD'],
  ['X of elsewhere after D', -1, 3, 'after', 'ABCDX'],
] as const)('%s', (_, from, over, side, order) => {
  const list = [...'ABCD'];
  const [moved] = from < 0 ? ['X'] : list.splice(from, 1);
  expect(list.toSpliced(landedAt(from, over, side), 0, moved!).join('')).toBe(order);
});
