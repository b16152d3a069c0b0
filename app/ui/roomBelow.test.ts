import { describe, expect, it } from 'vitest';
import { fitsBelow } from './roomBelow';

const wide = { width: 16, height: 9 };
const tall = { width: 9, height: 16 };
/** A place at 1280 × 800 with a reel of so many lines. */
const room = (lines: number, column = 400) => ({ width: 1280 - column, height: 756, taken: 44 + lines * 100, column });

describe('the picture of a reel', () => {
  it('takes the room below a short reel', () => {
    expect(fitsBelow(room(1), wide, false)).toBe(true);
    expect(fitsBelow(room(3), wide, false)).toBe(true);
  });
  it('stays beside a long one, and where it was made large there', () => {
    expect(fitsBelow(room(6), wide, false)).toBe(false);
    expect(fitsBelow(room(1, 860), wide, false)).toBe(false);
  });
  it('is measured by what is seen of it: beside a wide column an upright one gains, a wide one loses', () => {
    expect(fitsBelow(room(1, 700), tall, false)).toBe(true);
    expect(fitsBelow(room(1, 700), wide, false)).toBe(false);
  });
  it('does not jump about at the edge: it stays where it is', () => {
    const edge = { width: 880, height: 756, taken: 472, column: 400 };
    expect([fitsBelow(edge, wide, false), fitsBelow(edge, wide, true)]).toEqual([false, true]);
  });
  it('never goes where there is no room at all', () =>
    expect(fitsBelow({ width: 880, height: 100, taken: 300, column: 400 }, wide, true)).toBe(false));
});
