import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { applyCommand, assembleReel, clipsOf, insertInOrder, type Source } from '.';

const sources = new Map<string, Source>(
  ['morning', 'race', 'evening'].map((id) => [id, { id, name: id, durationSeconds: 60 }]),
);
let count = 0;
const makeId = () => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
const piece = (media: string, start: number, end: number) => ({ media, start, end, name: `${media} ${start}` });
const reelOf = (...pieces: ReturnType<typeof piece>[]) =>
  assembleReel('Race', pieces, sources, rates['25'], { width: 1280, height: 720 }, makeId);
const namesAfter = (reel: ReturnType<typeof reelOf>, ...more: ReturnType<typeof piece>[]) => {
  const commands = insertInOrder(reel, more, sources, makeId);
  const result = applyCommand(reel, { type: 'several', name: 'x', commands }, sources);
  if (!result.ok) throw new Error(result.reason);
  return clipsOf(result.reel).map(({ name }) => name);
};

describe('pieces put in where they stood in the footage', () => {
  const reel = reelOf(piece('morning', 10, 14), piece('race', 5, 9), piece('race', 30, 34), piece('evening', 0, 4));
  it('before the first that comes later', () => {
    expect(namesAfter(reel, piece('race', 20, 24), piece('morning', 2, 6))).toEqual([
      'morning 2',
      'morning 10',
      'race 5',
      'race 20',
      'race 30',
      'evening 0',
    ]);
  });
  it('never behind the last, which was chosen as an ending', () =>
    expect(namesAfter(reel, piece('evening', 20, 24)).slice(-2)).toEqual(['evening 20', 'evening 0']));
  it('into an empty reel; what is not there is passed over', () => {
    expect(namesAfter(reelOf(), piece('race', 5, 9), piece('gone', 0, 4))).toEqual(['race 5']);
    expect(insertInOrder(reel, [piece('gone', 0, 4)], sources, makeId)).toEqual([]);
  });
});
