import { bareWord } from './bare';
import { isDoubtful, type Word } from './types';

/** Doubtful words in a row that are looked at together, in seconds of the file. */
export interface DoubtfulPlace {
  /** Index of the first word, and of the one after the last. */
  from: number;
  to: number;
  start: number;
  end: number;
  text: string;
}

/** More words than these are not taken in at one look. */
const mostTogether = 4;
/** After a pause of so many seconds something else begins. */
const pause = 0.6;

/** What of a file's words is to be looked at, in order. */
export function doubtsOf(words: readonly Word[]): DoubtfulPlace[] {
  const found: DoubtfulPlace[] = [];
  for (let from = 0; from < words.length; from++) {
    if (!isDoubtful(words[from]!)) continue;
    let to = from + 1;
    while (
      to < words.length &&
      to - from < mostTogether &&
      isDoubtful(words[to]!) &&
      words[to]!.start - words[to - 1]!.end < pause
    )
      to++;
    const own = words.slice(from, to);
    const text = own.map((word) => word.text).join(' ');
    found.push({ from, to, start: own[0]!.start, end: own.at(-1)!.end, text });
    from = to - 1;
  }
  return found;
}

/**
 * Where else in a file the same was heard and nobody has said yet that it is right: what was misheard once is misheard again.
 * @returns indexes of the first words
 */
export function sameElsewhere(words: readonly Word[], { from, to }: Pick<DoubtfulPlace, 'from' | 'to'>): number[] {
  const texts = words.slice(from, to).map(({ text }) => text);
  return heardAs(words, texts, (at) => at + texts.length <= from || at >= to);
}

/**
 * Where some words were heard in a file, and nobody has said yet that they are right.
 * @param mayBe whether a place counts, by the index of its first word
 * @returns indexes of the first words, in order; places do not lie over one another
 */
export function heardAs(
  words: readonly Word[],
  texts: readonly string[],
  mayBe: (at: number) => boolean = () => true,
): number[] {
  const wanted = texts.map(bareWord);
  const found: number[] = [];
  if (wanted.length === 0) return found;
  for (let at = 0; at + wanted.length <= words.length; at++) {
    const isSame = wanted.every((text, offset) => {
      const word = words[at + offset]!;
      return word.confidence < 1 && bareWord(word.text) === text;
    });
    if (!isSame || !mayBe(at)) continue;
    found.push(at);
    at += wanted.length - 1;
  }
  return found;
}
