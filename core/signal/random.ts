/** The next number, 0 up to but without 1. */
export type Random = () => number;

/** Mulberry32 (Ettinger 2017): uniform in [0, 1) from a 32-bit seed; the same seed gives the same numbers. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}
