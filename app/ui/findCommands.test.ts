import { expect, it } from 'vitest';
import { find, type Findable } from './findCommands';

const all: Findable[] = [
  { id: 'p', group: 'Places', name: 'Reels', to: 'reels' },
  { id: 'r', group: 'Reels', name: 'Regatta, 2:30', to: 'reels/r' },
  { id: 'f', group: 'Files', name: 'walk-to-the-pier.mp4', to: 'moments' },
  { id: 'c', group: 'Commands', name: 'Split the piece at the playhead', hint: 'S' },
  { id: 'e', group: 'People', name: 'Émile', to: 'people' },
];
const ids = (query: string, most = 9) => find(all, query, most).map(({ id }) => id);

it('finds by beginnings and middles of words, in any order, whatever their accents and letters', () => {
  expect(ids('pier walk')).toEqual(['f']);
  expect(ids('PLAY')).toEqual(['c']);
  expect(ids('emile')).toEqual(['e']);
  expect(ids('re')[0]).toBe('p');
  // A word's beginning goes before its middle.
  expect(ids('at')).toEqual(['c', 'r']);
  expect(ids('zeppelin')).toEqual([]);
  expect(ids('mp4 (')).toEqual([]);
});
it('offers places and things before anything is typed, and not more than fit', () => {
  expect(ids('')).toEqual(['p', 'r', 'f', 'e']);
  expect(ids('', 2)).toEqual(['p', 'r']);
});
