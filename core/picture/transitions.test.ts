import { describe, expect, it } from 'vitest';
import { findFlashes, findTransitions, noiseLevel, type Gray } from '.';

const hz = 10,
  cells = 48;
const shot = (seed: number) =>
  Float32Array.from({ length: cells }, (_, cell) => 0.25 + 0.5 * Math.abs(Math.sin(cell * 12.9898 + seed * 78.233)));
const black = new Float32Array(cells);
/** Looks of a film: `share` of the second shot at each time. */
function film(
  seconds: number,
  a: Float32Array,
  b: Float32Array,
  share: (t: number) => number,
  gain: (t: number) => number = () => 1,
) {
  const values = new Float32Array(seconds * hz * cells);
  for (let index = 0; index < seconds * hz; index++)
    for (let cell = 0; cell < cells; cell++)
      values[index * cells + cell] =
        (a[cell]! * (1 - share(index / hz)) + b[cell]! * share(index / hz)) * gain(index / hz) +
        0.001 * Math.sin(index * 3 + cell);
  return { hz, cells, values };
}
const ramp = (from: number, to: number) => (t: number) => Math.min(1, Math.max(0, (t - from) / (to - from)));
const still = new Float32Array(200);

describe('dissolves and fades', () => {
  it.each([
    [4, 5],
    [3, 3.5],
    [5, 8],
  ])('finds a dissolve from %f to %f s', (from, to) => {
    const found = findTransitions(film(12, shot(1), shot(2), ramp(from, to)), still);
    expect(found).toHaveLength(1);
    expect(found[0]!.kind).toBe('dissolve');
    expect(Math.abs(found[0]!.start - from)).toBeLessThan(0.21);
    expect(Math.abs(found[0]!.end - to)).toBeLessThan(0.21);
  });
  it('calls a way into black a fade', () => {
    expect(findTransitions(film(8, shot(1), black, ramp(4, 5)), still).map((each) => each.kind)).toEqual(['fade']);
  });
  it('takes neither a hard cut, nor a change of light, nor a pan for one', () => {
    expect(
      findTransitions(
        film(8, shot(1), shot(2), (t) => (t < 4 ? 0 : 1)),
        still,
      ),
    ).toEqual([]);
    expect(
      findTransitions(
        film(
          8,
          shot(1),
          shot(1),
          () => 0,
          (t) => 1 - 0.5 * ramp(3, 4)(t),
        ),
        still,
      ),
    ).toEqual([]);
    expect(findTransitions(film(12, shot(1), shot(2), ramp(4, 5)), new Float32Array(200).fill(0.03))).toEqual([]);
  });
  it('a thing that crosses the picture changes one cell after the other, which is no dissolve', () => {
    const looks = film(10, shot(1), shot(1), () => 0);
    for (let index = 30; index < 60; index++)
      for (let cell = 0; cell < cells; cell++)
        if (Math.abs((cell % 8) - (index - 30) / 4) < 1.2) looks.values[index * cells + cell] = 0.05;
    expect(findTransitions(looks, still)).toEqual([]);
  });
});

it('a flash is short and bright; a lamp that stays on is none', () => {
  const light = (t: number) => (Math.abs(t - 3) < 0.05 ? 0.8 : t > 6 ? 0.7 : 0.4);
  const flashes = findFlashes(
    Float32Array.from({ length: 300 }, (_, frame) => light(frame / 30)),
    30,
  );
  expect(flashes).toHaveLength(1);
  expect(flashes[0]!.start).toBeCloseTo(2.95, 1);
});

it('noise: a clean slope reads 0, Gaussian noise its deviation over 6', () => {
  let state = 5;
  const random = () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) + 1) / 2 ** 32;
  const gauss = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const picture = (of: (x: number, y: number) => number): Gray => ({
    width: 320,
    height: 180,
    data: Uint8Array.from({ length: 57600 }, (_, at) =>
      Math.max(0, Math.min(255, Math.round(of(at % 320, Math.floor(at / 320))))),
    ),
  });
  expect(noiseLevel(picture((x) => x / 2))).toBeLessThan(0.12);
  expect(noiseLevel(picture((x) => (x % 40 < 20 ? 60 : 180)))).toBeLessThan(0.05);
  for (const sigma of [1.5, 3]) expect(noiseLevel(picture(() => 120 + sigma * gauss()))).toBeCloseTo(sigma / 6, 1);
});
