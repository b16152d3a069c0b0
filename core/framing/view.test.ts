import { describe, expect, it } from 'vitest';
import { affineOf, fullWidth, moveTowards, stillMoveAt } from '.';
import { viewOf } from './view';

const wide = { width: 1600, height: 900 };
const tall = { width: 900, height: 1600 };
const whole = { x: 0, y: 0, width: 1, height: 1 };

describe('views, worked by hand', () => {
  it('the largest view of another shape lies inside the source', () => {
    expect(fullWidth(wide, wide)).toBe(1);
    // 900 lines at 9:16 are 506.25 wide: 31.6 % of 1600.
    expect(fullWidth(wide, tall)).toBeCloseTo(0.31640625);
    expect(fullWidth(tall, wide)).toBe(1);
    expect(viewOf(whole, wide, tall)).toMatchObject({ x: 0.5, y: 0.5, turn: 0 });
  });
  it('a part at the edge is seen without anything beyond it', () => {
    const view = viewOf({ x: 0.8, y: 0, width: 0.2, height: 0.2 }, wide, wide);
    expect([view.width, view.x + view.width / 2, view.y - view.width / 2]).toEqual([
      0.2,
      expect.closeTo(1),
      expect.closeTo(0),
    ]);
  });
  it('a move begins and ends where it should, slowly, and keeps the point that both views share', () => {
    const move = { from: whole, to: { x: 0.5, y: 0.5, width: 0.5, height: 0.5 } };
    expect(stillMoveAt(move, 0, wide, wide)).toMatchObject({ x: 0.5, y: 0.5, width: 1 });
    const end = stillMoveAt(move, 1, wide, wide);
    expect([end.x, end.y, end.width]).toEqual([expect.closeTo(0.75), expect.closeTo(0.75), expect.closeTo(0.5)]);
    // Both views end at the lower right corner; so does every one between.
    for (const share of [0.2, 0.5, 0.8]) {
      const view = stillMoveAt(move, share, wide, wide);
      expect(view.x + view.width / 2).toBeCloseTo(1);
    }
    const [a, b, c] = [0, 0.05, 0.1].map((share) => stillMoveAt(move, share, wide, wide).width) as [
      number,
      number,
      number,
    ];
    expect(a - b).toBeLessThan(b - c);
    // Half-way the width is the geometric mean: the same factor in both halves.
    expect(stillMoveAt(move, 0.5, wide, wide).width).toBeCloseTo(Math.SQRT1_2);
  });
  it('a pixel of the frame lies where the view says', () => {
    const at = ({ a, b, c, d, e, f }: ReturnType<typeof affineOf>, i: number, j: number) => [
      a * i + b * j + c,
      d * i + e * j + f,
    ];
    const half = affineOf({ x: 0.25, y: 0.5, width: 0.5, turn: 0 }, wide, { width: 800, height: 450 });
    expect(at(half, 0, 0)).toEqual([0, 225]);
    expect(at(half, 800, 450)).toEqual([800, 675]);
    // A quarter turn clockwise: what is right in the frame lies lower in the source.
    const [x, y] = at(affineOf({ x: 0.5, y: 0.5, width: 1, turn: Math.PI / 2 }, wide, wide), 1600, 450);
    expect([x, y]).toEqual([expect.closeTo(800), expect.closeTo(1250)]);
  });
  it('moves towards faces, with room around them, and never beyond the photo', () => {
    const { from, to } = moveTowards(
      [
        { x: 0.7, y: 0.1, width: 0.1, height: 0.15 },
        { x: 0.85, y: 0.1, width: 0.1, height: 0.15 },
      ],
      true,
    );
    expect(from).toEqual(whole);
    expect(to.x + to.width).toBeLessThanOrEqual(1);
    expect([to.x < 0.7, to.y === 0, to.width >= 0.55]).toEqual([true, true, true]);
    expect(moveTowards([], false).to).toEqual(whole);
  });
});
