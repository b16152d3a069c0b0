import type { Range } from '#core/time';
import type { Word } from './types';

/** So much is left before and after words, in seconds, where the pauses have it: a breath (common practice, no source). */
const breath = 0.15;

/**
 * Where some words are said, with a breath on both sides and no sound of the words beside them.
 * @param from index of the first, `to` of the one after the last
 * @returns seconds of their file
 */
export function stretchOfWords(words: readonly Pick<Word, 'start' | 'end'>[], from: number, to: number): Range {
  const [first, last] = [words[from]!, words[to - 1]!];
  const before = first.start - (words[from - 1]?.end ?? 0);
  const after = (words[to]?.start ?? Infinity) - last.end;
  return {
    start: Math.max(0, first.start - Math.min(breath, Math.max(0, before) / 2)),
    end: last.end + Math.min(breath, Math.max(0, after) / 2),
  };
}
