import { expect, it } from 'vitest';
import type { HomeProject } from '#usecases/projects';
import { contentWords, shownProjects, stateWords } from './homeList';

const project = (values: Partial<HomeProject>): HomeProject => ({
  id: 'p',
  name: 'Regatta',
  changedAt: '2026-11-01T10:00:00.000Z',
  isPutAway: false,
  isRemoved: false,
  items: 0,
  films: 0,
  photos: 0,
  sounds: 0,
  read: 0,
  failed: 0,
  seconds: 0,
  poster: null,
  isDemo: false,
  ...values,
});
const all = [
  project({ name: 'Race 10', changedAt: '2026-11-03T10:00:00.000Z', seconds: 60 }),
  project({ name: 'race 2', changedAt: '2026-11-02T10:00:00.000Z', seconds: 600 }),
  project({ name: 'Race 3', isPutAway: true }),
  project({ name: 'Race 4', isPutAway: true, isRemoved: true }),
];
const names = (
  ...[shelf, text, sort]: [Parameters<typeof shownProjects>[1], string, Parameters<typeof shownProjects>[3]]
) => shownProjects(all, shelf, text, sort).map(({ name }) => name);

it('projects are found by a part of their name, shelf by shelf, in the order that is asked for', () => {
  expect(names('active', '', 'changed')).toEqual(['Race 10', 'race 2']);
  expect(names('active', '', 'name')).toEqual(['race 2', 'Race 10']);
  expect(names('active', '', 'length')).toEqual(['race 2', 'Race 10']);
  expect(names('active', ' RACE 1', 'name')).toEqual(['Race 10']);
  expect(names('away', '', 'name')).toEqual(['Race 3']);
  // What is deleted is nowhere else, even if it was put away before.
  expect(names('removed', '', 'name')).toEqual(['Race 4']);
});
it('says what is in a project and how much of it was read', () => {
  expect(contentWords(project({}))).toBe('Nothing in it yet');
  expect(contentWords(project({ items: 9, films: 1, photos: 6, sounds: 1 }))).toBe(
    '1 film, 6 photos, 1 recording and 1 other file',
  );
  expect(stateWords(project({}))).toBe('');
  expect(stateWords(project({ items: 3, read: 3 }))).toBe('All read');
  expect(stateWords(project({ items: 3, read: 1, failed: 1 }))).toBe('1 of 3 read, 1 cannot be read');
});
