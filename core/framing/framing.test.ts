import { describe, expect, it } from 'vitest';
import type { CameraPath } from '#core/picture';
import { seededRandom } from '#core/signal';
import { steadyingAdvice, steadyingPrice, steadyViews } from '.';

const hz = 30;
/** A path given by where the camera looks at each time, in picture widths and radians. */
function path(seconds: number, at: (t: number) => { x?: number; y?: number; turn?: number }): CameraPath {
  const count = seconds * hz;
  const steps = (of: (t: number) => number) =>
    Float32Array.from({ length: count }, (_, index) => (index ? of(index / hz) - of((index - 1) / hz) : 0));
  return {
    hz,
    dx: steps((t) => at(t).x ?? 0),
    dy: steps((t) => at(t).y ?? 0),
    rotation: steps((t) => at(t).turn ?? 0),
    zoom: new Float32Array(count),
    confidence: new Float32Array(count).fill(1),
    cuts: [],
  };
}
const whole = { start: 0, end: 8 };

describe('price of steadying', () => {
  it('a camera that stands, or moves evenly, costs next to nothing', () => {
    expect(
      steadyingPrice(
        path(8, () => ({})),
        whole,
        0.8,
      ),
    ).toMatchObject({ cropShare: 0, enlargement: 1, softness: 0 });
    expect(
      steadyingPrice(
        path(8, (t) => ({ x: 0.02 * t })),
        { start: 2, end: 6 },
        0.3,
      ).cropShare,
    ).toBeLessThan(0.01);
  });
  // By hand: a wander of ±2 % of the width around a place that full strength keeps still must be moved by 2 %, so the
  // picture is enlarged by (0.5 + 0.02) / 0.5 = 1.04 and 1 − 1 / 1.04² = 7.5 % is lost.
  it('a wander of two per cent of the width costs 7.5 % of the picture at full strength', () => {
    const price = steadyingPrice(
      path(8, (t) => ({ x: 0.02 * Math.sin(2 * Math.PI * 3 * t) })),
      whole,
      1,
    );
    expect(price.enlargement).toBeCloseTo(1.04, 2);
    expect(Math.abs(price.cropShare - 0.075)).toBeLessThan(0.01);
    expect(price.calmed).toBeGreaterThan(0.95);
  });
  // By hand: turning by 2° moves the corner of a 16:9 picture; (cos 2° · 0.28125 + sin 2° · 0.5) / 0.28125 = 1.061.
  it('turning costs more the wider the picture', () => {
    const turn = path(8, (t) => ({ turn: ((2 * Math.PI) / 180) * Math.sin(2 * Math.PI * 3 * t) }));
    expect(steadyingPrice(turn, whole, 1).enlargement).toBeCloseTo(1.061, 2);
    expect(steadyingPrice(turn, whole, 1, 1).enlargement).toBeLessThan(1.045);
  });
  it('grows with strength, and fast shake is soft whatever the strength', () => {
    const shaky = path(8, (t) => ({
      x: 0.03 * Math.sin(2 * Math.PI * 5 * t),
      y: 0.02 * Math.sin(2 * Math.PI * 7 * t),
    }));
    const prices = [0, 0.2, 0.4, 0.6, 0.8, 1].map((strength) => steadyingPrice(shaky, whole, strength));
    for (let index = 1; index < prices.length; index++)
      expect(prices[index]!.cropShare).toBeGreaterThanOrEqual(prices[index - 1]!.cropShare - 0.005);
    expect(prices[1]!.softness).toBeGreaterThan(0.8);
  });
  it.each([1, 2, 3, 4, 5, 6])('is what the views that are rendered lose, to two points (random shake %i)', (seed) => {
    const random = seededRandom(seed);
    const waves = Array.from({ length: 8 }, () => ({
      hz: 0.3 + 6 * random(),
      phase: 6 * random(),
      x: 0.012 * random(),
      y: 0.01 * random(),
      turn: 0.012 * random(),
    }));
    const sum = (t: number, which: 'x' | 'y' | 'turn') =>
      waves.reduce((all, wave) => all + wave[which] * Math.sin(2 * Math.PI * wave.hz * t + wave.phase), 0);
    const shaky = path(6, (t) => ({ x: sum(t, 'x'), y: sum(t, 'y'), turn: sum(t, 'turn') }));
    const zoom = Float32Array.from({ length: shaky.dx.length }, (_, index) => 0.004 * Math.sin(index / 3 + seed));
    const run = { start: 0, end: 6 };
    const steady = { position: 0.3 + 0.6 * random(), rotation: random(), scale: random(), edges: 'crop' as const };
    const times = Array.from({ length: 6 * 25 }, (_, frame) => frame / 25);
    const views = steadyViews({ ...shaky, zoom }, run, steady, times, 9 / 16);
    const kept = views.reduce((all, { width }) => all + width ** 2, 0) / views.length;
    expect(Math.abs(steadyingPrice({ ...shaky, zoom }, run, steady).cropShare - (1 - kept))).toBeLessThan(0.02);
  });
  it('advises in a sentence', () => {
    expect(
      steadyingAdvice(
        path(8, (t) => ({ x: 0.004 * Math.sin(2 * Math.PI * 2 * t) })),
        whole,
      ).sentence,
    ).toMatch(/^At 90 you lose 2 % of the picture/);
    expect(
      steadyingAdvice(
        path(8, (t) => ({ x: 0.05 * Math.sin(2 * Math.PI * 6 * t) })),
        whole,
      ),
    ).toMatchObject({ strength: 0, sentence: 'Not worth steadying: the frames themselves are blurred by the shake.' });
  });
});
