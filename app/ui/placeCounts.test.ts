import { expect, it } from 'vitest';
import { countsOfPlaces } from './placeCounts';

const item = (problem: string | null, state: 'queued' | 'running' | null = null, isMissing: boolean | null = null) => ({
  problem,
  state,
  here: isMissing === null ? null : { isMissing },
});
const task = (id: string, state: 'queued' | 'running' | 'done' | 'failed', kind: 'render' | 'read' = 'render') => ({
  id,
  kind,
  state,
});
const counts = (...given: [Parameters<typeof countsOfPlaces>[0], Parameters<typeof countsOfPlaces>[1], string[]?]) =>
  countsOfPlaces(given[0], given[1], new Set(given[2] ?? []));

it('nothing is said where nothing waits and nothing is new', () => {
  expect(counts([item(null), item(null, null, false)], [task('a', 'done')], ['a'])).toEqual({});
});
it('what others said of reels is counted until it is ticked off', () => {
  expect(countsOfPlaces([], [], new Set(), { pond: 2, finish: 1 }).reels).toMatchObject({ says: '3 open comments' });
});
it('files with a problem go before files that are read', () => {
  expect(counts([item(null, 'queued'), item(null, 'running')], []).footage).toMatchObject({
    number: 2,
    isTrouble: false,
  });
  expect(counts([item(null, 'queued'), item('No.'), item(null, null, true)], []).footage).toMatchObject({
    number: 2,
    isTrouble: true,
  });
});
it('failed renders, then finished ones that nobody has looked at, then those under way', () => {
  const tasks = [task('a', 'done'), task('b', 'running'), task('c', 'failed'), task('r', 'running', 'read')];
  expect(counts([], tasks).outputs).toMatchObject({ number: 1, says: '1 failed', isTrouble: true });
  expect(counts([], tasks, ['c']).outputs).toMatchObject({ says: '1 new' });
  expect(counts([], tasks, ['a', 'c']).outputs).toMatchObject({ says: '1 under way' });
});
