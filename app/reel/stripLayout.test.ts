import { describe, expect, it } from 'vitest';
import { assembleReel, planSound } from '#core/reel';
import { rates } from '#core/time';
import { testSources } from '../../core/reel/testEdits';
import { layLine, placeIn } from './stripLayout';

const pieces = [2, 10, 12].map((from) => ({ media: 'a', start: from, end: from + 2, name: `from ${from}` }));
let next = 0;
const reel = assembleReel('Pond', pieces, testSources, rates['25'], { width: 16, height: 16 }, () => 'ABC'[next++]!);
const line = planSound(reel);
const usual = { widthOf: () => 100, movedBefore: () => 0, drag: null };
const boxes = (laid: ReturnType<typeof layLine>) => laid.map(({ x, width }) => [x, width]);

describe('pieces in a line', () => {
  it('lie side by side, behind what went to another reel', () => {
    expect(boxes(layLine(line, usual))).toEqual([
      [0, 100],
      [102, 100],
      [204, 100],
    ]);
    expect(boxes(layLine(line, { ...usual, movedBefore: (id) => (id === 'B' ? 2 : 0) }))).toEqual([
      [0, 100],
      [102 + 2 * 58, 100],
      [204 + 2 * 58, 100],
    ]);
  });
  it('follow an edge that is drawn, and show what the source has there', () => {
    const out = layLine(line, { ...usual, drag: { clip: 'B', edge: 'out', pixels: 50 } });
    expect(boxes(out)).toEqual([
      [0, 100],
      [102, 150],
      [254, 100],
    ]);
    expect(out[1]).toMatchObject({ sourceSeconds: 10, sourceLength: 3 });
    const begun = layLine(line, { ...usual, drag: { clip: 'B', edge: 'in', pixels: 50 } });
    expect(begun[1]).toMatchObject({ width: 50, sourceSeconds: 11, sourceLength: 1 });
    expect(begun[2]!.x).toBe(154);
  });
  it('have a place for every time of theirs', () => {
    const place = placeIn(layLine(line, { ...usual, movedBefore: (id) => (id === 'C' ? 1 : 0) }));
    expect([0, 1, 2, 3, 4, 5, 9].map(place)).toEqual([0, 50, 102, 152, 262, 312, 362]);
    expect(placeIn([])(3)).toBe(0);
  });
});
