import { describe, expect, it } from 'vitest';
import { applyCommand, assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { testItem } from '../footage/testItems';
import { testSources } from '../../core/reel/testEdits';
import { piecesOfFiles, piecesOfReel } from './pieceSources';

const items = [
  testItem('a'),
  testItem('b', { defaultIn: 1, defaultOut: 5 }),
  testItem('p', { name: 'paper.boat.jpg', probe: { kind: 'photo', durationSeconds: 0 } }),
  testItem('r', { probe: { kind: 'sound' } }),
  testItem('unread', { probe: null }),
  testItem('broken', { problem: 'This file is damaged.' }),
];
const plain = (pieces: ReturnType<typeof piecesOfFiles>) =>
  pieces.map(({ media, name, start, end, photo }) => [media, name, start, end, photo ?? false]);

describe('what a montage is filled with', () => {
  it('every file that can be seen, between its default in and out; photos for four seconds', () =>
    expect(plain(piecesOfFiles(items))).toEqual([
      ['a', 'a', 0, 40, false],
      ['b', 'b', 1, 5, false],
      ['p', 'paper.boat', 0, 4, true],
    ]));
  it('the pieces of a reel as long as their source runs, without what is only heard', () => {
    const wanted = [
      { media: 'a', start: 2, end: 6, name: 'A' },
      { media: 'p', start: 0, end: 3, name: 'Paper' },
    ];
    let next = 0;
    const size = { width: 16, height: 16 };
    const first = assembleReel('Pond', wanted, testSources, rates['25'], size, () => 'ABCD'[next++]!);
    const reel = [
      { type: 'speed' as const, clip: 'A', percent: 200 },
      {
        type: 'put' as const,
        how: 'sound' as const,
        at: 0,
        clips: [{ id: 'R', media: 'r', name: 'voice', sourceIn: 0, frames: 20 }],
      },
    ].reduce((now, command) => {
      const result = applyCommand(now, command, testSources);
      if (!result.ok) throw new Error(result.reason);
      return result.reel;
    }, first);
    // Two seconds at double speed are four seconds of the source.
    expect(plain(piecesOfReel(reel, items))).toEqual([
      ['a', 'A', 2, 6, false],
      ['p', 'Paper', 0, 4, true],
    ]);
  });
});
