import { describe, expect, it } from 'vitest';
import { namedTurns, type NamedFace } from './speakers';

const face = (track: string, name: string | null, start: number, end: number): NamedFace => ({
  track,
  name,
  start,
  end,
});
const turn = (start: number, end: number) => ({ start, end });
const mouth = (track: string, level: number) => ({
  track,
  start: 0,
  hz: 10,
  values: new Float32Array(100).fill(level),
});

describe('who speaks', () => {
  const captain = face('1', 'Captain', 0, 10);
  const builder = face('2', 'Builder', 0, 10);

  it('is whoever is alone in the picture for most of the turn', () => {
    expect(namedTurns([turn(1, 4)], [captain], [])).toEqual([{ start: 1, end: 4, name: 'Captain' }]);
    expect(namedTurns([turn(8, 14)], [captain], [])).toEqual([]);
    // Lost from sight and found again, they are one.
    const parts = [face('1', 'Captain', 0, 3), face('4', 'Captain', 4, 10)];
    expect(namedTurns([turn(1, 9)], parts, [])).toMatchObject([{ name: 'Captain' }]);
  });
  it('of two, the one whose mouth moves clearly more; without that nobody', () => {
    const both = [captain, builder];
    expect(namedTurns([turn(1, 4)], both, [])).toEqual([]);
    expect(namedTurns([turn(1, 4)], both, [mouth('1', 0.1), mouth('2', 0.5)])).toMatchObject([{ name: 'Builder' }]);
    expect(namedTurns([turn(1, 4)], both, [mouth('1', 0.45), mouth('2', 0.5)])).toEqual([]);
  });
  it('somebody without a name is not somebody else', () => {
    const stranger = face('3', null, 0, 10);
    expect(namedTurns([turn(1, 4)], [stranger], [])).toEqual([]);
    expect(namedTurns([turn(1, 4)], [captain, stranger], [mouth('1', 0.1), mouth('3', 0.6)])).toEqual([]);
    expect(namedTurns([turn(1, 4)], [captain, stranger], [])).toEqual([]);
  });
  it('mouths of people who are not in the picture then do not count', () =>
    expect(namedTurns([turn(1, 4)], [captain, face('2', 'Builder', 6, 10)], [mouth('2', 0.9)])).toMatchObject([
      { name: 'Captain' },
    ]));
});
