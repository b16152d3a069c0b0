import { expect, it } from 'vitest';
import { compareTake, prepare } from '.';
import { footage } from './testFootage';

const take = (fill: Parameters<typeof footage>[1], id = 'a') =>
  prepare(footage(20, fill, [{ kind: 'speech', start: 2, end: 12 }], id));
const first = { start: 2, end: 6 };

it.each([
  ['told slower, out of focus', { sharpness: () => 0.5 }, { start: 2, end: 7 }, 'softer, slower'],
  ['told faster', {}, { start: 2, end: 5 }, 'faster'],
  ['from nearer, with a smile', { faceArea: () => 0.12, smile: () => 0.9 }, first, 'with more of a smile, closer'],
  ['from a hand that shakes', { shake: () => 0.4 }, first, 'shakier'],
  ['louder', { loudness: () => -40 }, first, 'louder'],
  ['the same once more', { sharpness: () => 0.87 }, { start: 2.1, end: 6.2 }, 'much the same'],
])('another take that is %s', (_, fill, range, said) => {
  const own = { faceArea: () => 0.05, smile: () => 0.1 };
  expect(compareTake(take(own), first, take({ ...own, ...fill }, 'b'), range)).toBe(said);
});
it('of what is not said it is longer, not slower', () => {
  const still = prepare(footage(20, {}));
  expect(compareTake(still, first, still, { start: 2, end: 9 })).toBe('longer');
});
