import { seededRandom } from '#core/signal';

/** Deterministic random numbers, so that the same script always makes the same demo. */
export { seededRandom, type Random } from '#core/signal';

/** Smooth step from 0 to 1 while `value` goes from `from` to `to`. */
export function ease(value: number, from: number, to: number): number {
  const share = Math.min(1, Math.max(0, (value - from) / (to - from)));
  return share * share * (3 - 2 * share);
}

/** A sum of sines between `lowHz` and `highHz` with seeded phases; about -1 to 1, zero mean. */
export function wander(seed: number, lowHz: number, highHz: number, parts = 5) {
  const random = seededRandom(seed);
  const sines = Array.from({ length: parts }, (_, index) => ({
    hz: lowHz + ((highHz - lowHz) * (index + random())) / parts,
    phase: random() * Math.PI * 2,
  }));
  const norm = Math.sqrt(2 / parts);
  return (seconds: number) =>
    sines.reduce((sum, sine) => sum + Math.sin(2 * Math.PI * sine.hz * seconds + sine.phase), 0) * norm * 0.7;
}
