import { describe, expect, it } from 'vitest';
import { testItem } from '../testItems';
import { shownItems, showingOf } from './showing';
import { columnValues, compareValues, sortOf, sortText } from './sorting';
import { readView, usualView, withColumn } from './tableView';

const items = [
  testItem('a', { name: 'boat 10.mp4', position: 1, binId: 'x' }),
  testItem('b', { name: 'Boat 9.jpg', position: 0, probe: { kind: 'photo' } }),
  testItem('c', { name: 'Anchor.mp4', position: 2, binId: 'x', probe: null }),
  testItem('d', { name: 'hum.wav', position: 3, probe: { kind: 'sound' }, problem: 'This file is damaged.' }),
];
const ids = (...[bin, show, text]: [string | null, Parameters<typeof shownItems>[2], string]) =>
  shownItems(items, bin, show, text)
    .map(({ id }) => id)
    .join('');

describe('what the table shows', () => {
  it('all as it arrived, a bin, a kind, and what needs a hand', () => {
    expect(ids(null, 'all', '')).toBe('bacd');
    expect(ids('x', 'all', '')).toBe('ac');
    expect([ids(null, 'videos', ''), ids(null, 'photos', ''), ids(null, 'sound', '')]).toEqual(['a', 'b', 'd']);
    expect([ids(null, 'unread', ''), ids(null, 'problems', '')]).toEqual(['c', 'd']);
  });
  it('every word of the filter is in the name, however it is written', () => {
    expect(ids(null, 'all', 'BOAT')).toBe('ba');
    expect(ids(null, 'all', ' 10 boat ')).toBe('a');
    expect(ids('x', 'all', 'hum')).toBe('');
  });
  it('nonsense in the address shows all', () =>
    expect(['photos', 'toString', '', null].map(showingOf)).toEqual(['photos', 'all', 'all', 'all']));
});

describe('the order of footage', () => {
  it('goes into the address and comes out of it', () => {
    expect(sortOf('-length')).toEqual({ column: 'length', desc: true });
    expect(sortText(sortOf('-length'))).toBe('-length');
    expect(sortText(sortOf('name'))).toBe('name');
  });
  it('nonsense in the address is the order of arrival', () =>
    expect(['order', '--name', 'toString', '', null].map(sortOf)).toEqual([null, null, null, null, null]));
  it('names with the numbers in them counted, in capitals or not', () =>
    expect(items.map(columnValues.name).sort(compareValues)).toEqual([
      'Anchor.mp4',
      'Boat 9.jpg',
      'boat 10.mp4',
      'hum.wav',
    ]));
  it('numbers as numbers; what is not known has no value', () => {
    expect([90, 8, 1000].sort(compareValues)).toEqual([8, 90, 1000]);
    expect(columnValues.length(items[2]!)).toBeUndefined();
  });
});

describe('how the table is looked at', () => {
  it('is kept, and what is not understood is as usual', () => {
    const view = withColumn(withColumn(usualView, 'bin', true), 'picture', false);
    expect([...readView(JSON.stringify(view)).hidden].sort()).toEqual([...view.hidden].sort());
    expect(readView(JSON.stringify(view)).hidden).not.toContain('bin');
    expect(['', '{', 'null', '[]'].map((text) => readView(text).poster)).toEqual(Array(4).fill('medium'));
  });
  it('the name is always there', () =>
    expect(readView('{"hidden":["name","size"],"poster":"huge"}')).toEqual({ hidden: ['size'], poster: 'medium' }));
});
