import { expect, it } from 'vitest';
import { testItem } from '../footage/testItems';
import { packItems, unpackItems } from './packedItems';

it('items come out as they went in, times as times', () => {
  const items = [
    testItem('a', { name: 'boat “10”.mp4', readAt: new Date('2026-06-06T10:00:01.250Z') }),
    testItem('b', { probe: { kind: 'photo', recordedAt: '2026-06-06T09:00:00' }, readAt: null }),
    testItem('c', { probe: null, problem: 'This file is damaged.' }),
  ];
  expect(unpackItems(packItems(items))).toEqual(items);
  expect(unpackItems(packItems([]))).toEqual([]);
});
