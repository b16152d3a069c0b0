import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { halve, type Gray } from '../gray';
import { coarseShift, matchBlocks } from '../testBlockMatching';
import { BlockMatcher } from './blockMatcher';

let state = 1;
const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;

/** Soft hills with grain, shifted and turned a little from one to the next, and now and then something quite else. */
function scene(width: number, height: number, number: number): Gray {
  const [ax, ay, turn, cut] = [
    random() * 20 - 10,
    random() * 10 - 5,
    random() * 0.04 - 0.02,
    number % 7 === 3 ? 40 : 0,
  ];
  return {
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, index) => {
      const [px, py] = [index % width, Math.floor(index / width)];
      const [x, y] = [px + ax + py * turn + cut, py + ay - px * turn];
      const wave = Math.sin(x / 5) + Math.sin(y / 7 + x / 11) + (x > width / 2 ? 0 : Math.sin((x * y) / 90));
      return Math.max(0, Math.min(255, 128 + 40 * wave + (number % 3) * 12 * (random() - 0.5)));
    }),
  };
}
const pyramid = (picture: Gray): Gray[] => {
  const half = halve(picture);
  const quarter = halve(half);
  return [picture, half, quarter, halve(quarter)];
};

it.each([
  [320, 180],
  [180, 320],
  [320, 133],
  [64, 320],
])('finds in pictures of %i × %i what plain TypeScript finds, to the last bit', (width, height) => {
  const matcher = new BlockMatcher(width, height);
  let before: Gray[] | null = null;
  let blocks = 0;
  for (let number = 0; number < 16; number++) {
    const now = pyramid(scene(width, height, number));
    const [old, own] = [matcher.pyramids[(number + 1) % 2]!, matcher.pyramids[number % 2]!];
    for (const [level, { data }] of now.entries()) own[level]!.data.set(data);
    if (before) {
      const shift = coarseShift(before[3]!, now[3]!);
      // Integers know no −0.
      expect(matcher.coarseShift(old[3]!, own[3]!)).toEqual({ x: shift.x + 0, y: shift.y + 0 });
      for (const coarse of [shift, { x: 0, y: 0 }, { x: -9, y: 4 }]) {
        const expected = matchBlocks(before, now, coarse);
        expect(matcher.matchBlocks(old, own, coarse)).toEqual(expected);
        blocks += expected.length;
      }
    }
    before = now;
  }
  expect(blocks).toBeGreaterThan(2000);
});

it('runs what the source compiles to', () => {
  const compiled = execFileSync('node', ['scripts/buildSimd.mjs', '--print'], { encoding: 'utf8' });
  expect(readFileSync('core/picture/simd/blockMatchingBytes.ts', 'utf8')).toBe(compiled);
});
