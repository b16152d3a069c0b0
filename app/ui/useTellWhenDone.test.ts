import { expect, it } from 'vitest';
import { endedWords } from './useTellWhenDone';

it('says what is over in a sentence', () => {
  const ended = { kind: 'read' as const, seconds: 90, done: 1, failed: 0, title: 'race-day.mp4' };
  expect(endedWords(ended)).toBe('“race-day.mp4” is read');
  expect(endedWords({ ...ended, kind: 'render', title: 'Regatta' })).toBe('“Regatta” is rendered');
  expect(endedWords({ ...ended, done: 7, title: null })).toBe('7 files are read');
  expect(endedWords({ ...ended, done: 7, failed: 2, title: null })).toBe('7 files are read; 2 failed');
  expect(endedWords({ ...ended, done: 0, failed: 1 })).toBe('“race-day.mp4” failed');
  expect(endedWords({ ...ended, kind: 'sync', title: 'Race day' })).toBe('“Race day” is done');
});
