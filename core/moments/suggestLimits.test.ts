import { describe, expect, it } from 'vitest';
import { lookHz } from '#core/readings';
import { seededRandom } from '#core/signal';
import { suggestLimits } from './suggestLimits';
import { footage } from './testFootage';
import { defaultLimits, type Footage } from './types';

describe('limits that are set by the footage itself', () => {
  const random = seededRandom(9);
  const around = (middle: number, by: number) => middle + (random() - 0.5) * by;
  const file = (shake: (t: number) => number, more: Parameters<typeof footage>[1] = {}) =>
    footage(200, { shake, ...more });
  const of = (limit: string, files: Footage[]) =>
    suggestLimits(files, defaultLimits).found.find((each) => each.limit === limit)!;

  it('lie in the gap between what is steady and what shakes, and say how much is out', () => {
    const files = [file((t) => (t < 20 ? around(0.75, 0.1) : around(0.15, 0.2)))];
    const shake = of('shake', files);
    expect(shake.at).toBeGreaterThan(0.27);
    expect(shake.at).toBeLessThan(0.69);
    expect(shake.bad).toBeCloseTo(0.1, 2);
    expect(suggestLimits(files, defaultLimits).limits.shake).toBe(shake.at);
  });
  it('stay where there is none: everything alike, or evenly spread', () => {
    expect(of('shake', [file(() => around(0.2, 0.2))])).toEqual({ limit: 'shake', at: null, bad: 0 });
    expect(of('shake', [file((t) => t / 200)]).at).toBeNull();
    expect(suggestLimits([], defaultLimits).limits).toEqual(defaultLimits);
  });
  it('by hand: sharp at 0.9 and blurred at 0.1 part in the middle of the bounds that make sense', () => {
    const blurred = file(() => 0, { sharpness: (t) => (t < 30 ? 0.1 : 0.9), exposure: () => 1 });
    const blur = of('blur', [blurred]);
    expect(blur.bad).toBeCloseTo(0.15, 3);
    expect(blur.at).toBeGreaterThan(0.15);
    expect(blur.at).toBeLessThan(0.9);
    expect(suggestLimits([blurred], defaultLimits).limits.dark).toBe(defaultLimits.dark);
  });
  it('fog and burnt out pictures have limits of their own', () => {
    const mixed = file(() => 0.1, {
      contrast: (t) => around(t < 30 ? 0.02 : 0.2, 0.02),
      white: (t) => around(t >= 150 ? 0.9 : 0.05, 0.08),
    });
    expect(of('contrast', [mixed]).bad).toBeCloseTo(0.15, 2);
    expect(of('contrast', [mixed]).at).toBeGreaterThan(0.03);
    expect(of('white', [mixed]).bad).toBeCloseTo(0.25, 2);
  });
  it('a picture with nothing in it is told from the others, and one with a face never is one', () => {
    const cells = 24;
    const look = (flatUntil: number) => ({
      hz: lookHz,
      cells,
      values: Float32Array.from({ length: 200 * lookHz * cells }, (_, index) =>
        Math.floor(index / cells) / lookHz < flatUntil ? 0.4 + 0.002 * (index % 3) : 0.4 + 0.12 * ((index % cells) % 2),
      ),
    });
    const empty = { ...file(() => 0), look: look(40) };
    expect(of('plain', [empty]).bad).toBeCloseTo(0.2, 1);
    const filled = { ...file(() => 0, { faces: () => 1 }), look: look(40) };
    expect(of('plain', [filled]).at).toBeNull();
  });
});
