/** A stretch of time in seconds; `end` is not part of it. */
export interface Range {
  start: number;
  end: number;
}

/** End less start. */
export const lengthOf = (range: Range): number => range.end - range.start;

/** The lengths of all, added; what overlaps counts twice. */
export const totalLength = (ranges: readonly Range[]): number =>
  ranges.reduce((sum, range) => sum + lengthOf(range), 0);

/** Seconds that both have in common; 0 when they only touch. */
export const overlap = (a: Range, b: Range): number => Math.max(0, Math.min(a.end, b.end) - Math.max(a.start, b.start));

/** Whether a time lies in it. */
export const contains = ({ start, end }: Range, seconds: number): boolean => seconds >= start && seconds < end;

/** Sorted, without overlaps; ranges closer than `gap` seconds become one. */
export function mergeRanges(ranges: readonly Range[], gap = 0): Range[] {
  const sorted = [...ranges].sort((a, b) => a.start - b.start);
  const merged: Range[] = [];
  for (const range of sorted) {
    const last = merged.at(-1);
    if (last && range.start - last.end <= gap) last.end = Math.max(last.end, range.end);
    else merged.push({ start: range.start, end: range.end });
  }
  return merged;
}

/** What `whole` has outside `parts`. */
export function subtractRanges(whole: Range, parts: readonly Range[]): Range[] {
  const rest: Range[] = [];
  let from = whole.start;
  for (const part of mergeRanges(parts)) {
    if (part.start > from) rest.push({ start: from, end: Math.min(part.start, whole.end) });
    from = Math.max(from, part.end);
    if (from >= whole.end) break;
  }
  if (from < whole.end) rest.push({ start: from, end: whole.end });
  return rest.filter((range) => range.end > range.start);
}

/** Seconds of `range` that lie in `parts` (which do not overlap one another). */
export const coveredSeconds = (range: Range, parts: readonly Range[]): number =>
  parts.reduce((sum, part) => sum + overlap(range, part), 0);

/** Index of the last of sorted ranges that begins at or before `seconds`, or -1. */
export function lastBefore(ranges: readonly Range[], seconds: number): number {
  let low = 0;
  let high = ranges.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ranges[middle]!.start <= seconds) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
