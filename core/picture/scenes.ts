import type { Range } from '#core/time';

/**
 * Hard cuts: single frames in which the picture's blocks find no counterpart in the frame before, or do not agree on
 * any camera motion, between neighbours that do. A whip pan or a shaking camera raises the neighbours too.
 * @param unmatched share of blocks without a counterpart per frame, 0 to 1
 * @param confidence share of blocks that agree with the camera motion per frame, 0 to 1
 * @param sensitivity 0 (only the plainest cuts) to 1
 * @returns start of the first frame after each cut, in seconds
 */
export function hardCuts(
  unmatched: ArrayLike<number>,
  confidence: ArrayLike<number>,
  hz: number,
  sensitivity = 0.5,
): number[] {
  const threshold = 0.55 - 0.4 * sensitivity;
  const novelty = Float32Array.from({ length: unmatched.length }, (_, index) =>
    index ? (unmatched[index]! + 1 - confidence[index]!) / 2 : 0,
  );
  const cuts: number[] = [];
  for (let index = 1; index < novelty.length; index++) {
    const value = novelty[index]!;
    if (value < threshold) continue;
    let like = 0;
    let higher = false;
    const most = [0, 0];
    for (let offset = -4; offset <= 4; offset++) {
      const other = novelty[index + offset] ?? 0;
      if (offset !== 0 && other > value * 0.5) like++;
      if (Math.abs(offset) <= 2 && (offset < 0 ? other >= value : other > value)) higher = true;
      if (offset !== 0) most[offset < 0 ? 0 : 1] = Math.max(most[offset < 0 ? 0 : 1]!, other);
    }
    // Out of a shaking shot into a calm one (or back): one side is quiet, and the cut stands well out of the other.
    const atTheEdge = Math.min(...most) < 0.12 && value > 1.5 * Math.max(...most);
    if (!higher && (like <= 1 || atTheEdge)) cuts.push(index / hz);
  }
  return cuts;
}

/** The scenes between cuts; scenes shorter than `minSeconds` join the one before. */
export function scenesBetween(cuts: readonly number[], duration: number, minSeconds = 0.4): Range[] {
  const scenes: Range[] = [];
  let start = 0;
  for (const cut of [...cuts, duration]) {
    if (cut - start < minSeconds && cut !== duration) continue;
    if (cut > start) scenes.push({ start, end: cut });
    start = cut;
  }
  return scenes;
}

/** Cuts that are none: the two edges of a flash after which the picture is what it was, and steps inside a dissolve. */
export function withoutFalseCuts(
  cuts: readonly number[],
  flashes: readonly Range[],
  transitions: readonly Range[],
  sameAround: (from: number, to: number) => boolean,
): number[] {
  return cuts.filter((cut) => {
    if (
      flashes.some(
        (flash) => cut > flash.start - 0.1 && cut < flash.end + 0.1 && sameAround(flash.start - 0.15, flash.end + 0.15),
      )
    )
      return false;
    return !transitions.some((transition) => cut > transition.start - 0.1 && cut < transition.end + 0.1);
  });
}
