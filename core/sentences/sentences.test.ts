import { expect, it } from 'vitest';
import {
  counted,
  decimal,
  formatDay,
  formatLongDay,
  formatMoment,
  formatSize,
  formatTimeLeft,
  formatTimeOfDay,
  listOf,
  upTo,
} from '.';

it('one is one, everything else is many', () => {
  expect([0, 1, 2].map((count) => counted(count, 'piece'))).toEqual(['0 pieces', '1 piece', '2 pieces']);
  expect(counted(3, 'loss', 'losses')).toBe('3 losses');
});
it('parts are joined by commas, the last by “and”', () => {
  expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(listOf)).toEqual(['', 'a', 'a and b', 'a, b and c']);
});

it('thousands are set apart, as in English: The Chicago Manual of Style 9.55, from memory', () => {
  expect([counted(1234, 'piece'), counted(5000, 'file'), upTo(12_345_678, 0)]).toEqual([
    '1,234 pieces',
    '5,000 files',
    '12,345,678',
  ]);
});
it('numbers have so many digits, or no more than they need', () => {
  expect([decimal(2, 1), decimal(1234.567, 2), decimal(0.05, 1), decimal(-23.04, 1)]).toEqual([
    '2.0',
    '1,234.57',
    '0.1',
    '-23.0',
  ]);
  expect([upTo(25, 2), upTo(30000 / 1001, 2), upTo(0.1 + 0.2, 3)]).toEqual(['25', '29.97', '0.3']);
});
it('sizes go by powers of a thousand: SI prefixes, IEC 80000-13', () => {
  expect([0, 999, 1500, 19_400_000, 250_000_000_000, 3e15].map(formatSize)).toEqual([
    '0 B',
    '999 B',
    '1.5 KB',
    '19.4 MB',
    '250 GB',
    '3,000 TB',
  ]);
});
it('times left are as exact as one wants to know', () => {
  expect([0.2, 75, 4000].map(formatTimeLeft)).toEqual(['1 s left', '1 min 15 s left', '1 h 6 min left']);
});
it('days come before months', () => {
  const at = new Date(2026, 10, 29, 14, 5);
  expect([formatDay(at), formatLongDay(at), formatMoment(at), formatTimeOfDay(at)]).toEqual([
    '29 Nov 2026',
    '29 November 2026',
    '29 Nov 2026, 14:05',
    '14:05',
  ]);
});
