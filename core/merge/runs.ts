import { sameValue } from './values';

/** Where a list differs from another one: from so many members on, instead of so many there stand these. */
interface Change<T> {
  from: number;
  count: number;
  instead: readonly T[];
}

function changeBetween<T>(before: readonly T[], after: readonly T[]): Change<T> {
  const shorter = Math.min(before.length, after.length);
  let from = 0;
  while (from < shorter && sameValue(before[from], after[from])) from++;
  let same = 0;
  while (same < shorter - from && sameValue(before[before.length - 1 - same], after[after.length - 1 - same])) same++;
  return { from, count: before.length - same - from, instead: after.slice(from, after.length - same) };
}

/**
 * Three lists of things without names made one, such as the words of a file: what each side changed is taken for one run,
 * and both are done where the runs do not overlap.
 * @param base what both sides began with
 * @returns null where both changed the same place
 */
export function mergeRuns<T>(base: readonly T[], mine: readonly T[], theirs: readonly T[]): T[] | null {
  if (sameValue(mine, theirs)) return [...theirs];
  const [here, there] = [changeBetween(base, mine), changeBetween(base, theirs)];
  if (here.count === 0 && here.instead.length === 0) return [...theirs];
  if (there.count === 0 && there.instead.length === 0) return [...mine];
  const [first, second] = here.from <= there.from ? [here, there] : [there, here];
  const between = second.from - first.from - first.count;
  // Of what is put in at one place nobody knows which comes first.
  if (between < 0 || (between === 0 && (first.count === 0 || second.count === 0))) return null;
  return [
    ...base.slice(0, first.from),
    ...first.instead,
    ...base.slice(first.from + first.count, second.from),
    ...second.instead,
    ...base.slice(second.from + second.count),
  ];
}
