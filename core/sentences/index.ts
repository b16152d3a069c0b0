/** A count with its noun: “1 piece”, “2 pieces”. @param many of the noun; with an s when missing */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

/** Parts of a sentence one after another: “a”, “a and b”, “a, b and c”. */
export const listOf = (parts: readonly string[]): string =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}`;
