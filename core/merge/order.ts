/** Members of a longest increasing subsequence, by patience sorting (Schensted 1961): O(n log n). */
function longestIncreasing(values: readonly number[]): Set<number> {
  const tops: number[] = [];
  const before = new Int32Array(values.length).fill(-1);
  for (const [index, value] of values.entries()) {
    let [low, high] = [0, tops.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[tops[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    if (low > 0) before[index] = tops[low - 1]!;
    tops[low] = index;
  }
  const members = new Set<number>();
  for (let index = tops.at(-1) ?? -1; index >= 0; index = before[index]!) members.add(values[index]!);
  return members;
}

/** What of an order stands elsewhere in another one: the fewest that have to move to make one of the other. */
export function movedBetween(before: readonly string[], after: readonly string[]): Set<string> {
  const place = new Map(before.map((id, index) => [id, index]));
  const shared = after.filter((id) => place.has(id));
  const still = longestIncreasing(shared.map((id) => place.get(id)!));
  return new Set(shared.filter((id) => !still.has(place.get(id)!)));
}

/**
 * Three orders of the same things made one: what one side took out is out, what it put in or moved stands behind what
 * it put it behind (three-way merge; Khanna, Kunal & Pierce 2007, "A Formal Investigation of Diff3", for things that
 * have names).
 * @param base what both sides began with; names stand in each order once
 * @returns the order, or the name of what both sides moved to different places
 */
export function mergeOrder(
  base: readonly string[],
  mine: readonly string[],
  theirs: readonly string[],
): { order: string[] } | { clash: string } {
  const [known, own, other] = [new Set(base), new Set(mine), new Set(theirs)];
  const [movedHere, movedThere] = [movedBetween(base, mine), movedBetween(base, theirs)];
  // Where both orders agree on what moved, it is the same move.
  const apart = movedBetween(
    mine.filter((id) => other.has(id)),
    theirs.filter((id) => own.has(id)),
  );
  for (const id of movedHere) if (movedThere.has(id) && apart.has(id)) return { clash: id };
  const placed = new Set(
    mine.filter((id) => (known.has(id) ? movedHere.has(id) && other.has(id) && !movedThere.has(id) : !other.has(id))),
  );
  const order = theirs.filter((id) => !placed.has(id) && (own.has(id) || !known.has(id)));
  for (const [index, id] of mine.entries()) {
    if (!placed.has(id)) continue;
    const behind = mine.slice(0, index).findLast((each) => order.includes(each));
    order.splice(behind === undefined ? 0 : order.indexOf(behind) + 1, 0, id);
  }
  return { order };
}
