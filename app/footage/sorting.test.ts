import { describe, expect, it } from 'vitest';
import { sortedItems, sortKey } from './sorting';
import { testItem } from './testItems';

const items = [
  testItem('a', { name: 'boat 10.mp4', position: 1, binId: 'x', createdAt: new Date('2026-06-01') }),
  testItem('b', { name: 'boat 9.mp4', position: 0, probe: { durationSeconds: 90 }, createdAt: new Date('2026-06-03') }),
  testItem('c', { name: 'Anchor.jpg', position: 2, binId: 'x', probe: null, createdAt: new Date('2026-06-02') }),
];
const ids = (...given: Parameters<typeof sortedItems>) => sortedItems(...given).map((item) => item.id);

describe('the order of footage', () => {
  it('as it arrived, by name with numbers counted, longest first, newest first', () => {
    expect(ids(items, null, 'order')).toEqual(['b', 'a', 'c']);
    expect(ids(items, null, 'name')).toEqual(['c', 'b', 'a']);
    expect(ids(items, null, 'length')).toEqual(['b', 'a', 'c']);
    expect(ids(items, null, 'added')).toEqual(['b', 'c', 'a']);
  });
  it('of one bin, and the list given stays as it is', () => {
    expect(ids(items, 'x', 'name')).toEqual(['c', 'a']);
    expect(items.map((item) => item.id)).toEqual(['a', 'b', 'c']);
  });
  it('nonsense in the address is the order of arrival', () => {
    expect(['name', 'added', null, '', 'toString', 'x'].map(sortKey)).toEqual([
      'name',
      'added',
      'order',
      'order',
      'order',
      'order',
    ]);
  });
});
