/** How many combinations there are of one of each list: the product of their lengths. */
export const countCombinations = (lists: readonly (readonly unknown[])[]): number =>
  lists.length === 0 ? 0 : lists.reduce((product, list) => product * list.length, 1);

/**
 * Combinations of one of each list, the last list changing fastest. With `most` under their number they are spread evenly
 * over all of them, so that everything has its turn about equally often.
 */
export function combinations<T>(lists: readonly (readonly T[])[], most = Infinity): T[][] {
  const all = countCombinations(lists);
  const wanted = Math.max(0, Math.min(all, Math.floor(most)));
  const step = wanted === all ? 1 : coprimeStep(all);
  // A step that has no factor in common with the whole visits every combination before it comes back.
  return Array.from({ length: wanted }, (_, index) => combinationAt(lists, (index * step) % all));
}

function combinationAt<T>(lists: readonly (readonly T[])[], place: number): T[] {
  let at = place;
  return lists
    .toReversed()
    .map((list) => {
      const one = list[at % list.length]!;
      at = Math.floor(at / list.length);
      return one;
    })
    .reverse();
}

/** Near the golden section of `count`, which spreads any number of steps evenly (Knuth 1973, 6.4), without a factor in common. */
function coprimeStep(count: number): number {
  const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
  let step = Math.max(1, Math.round(count * 0.618));
  while (common(step, count) !== 1) step++;
  return step;
}
