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
 * Where else the same was heard and nobody has said yet that it is right: what was misheard once is misheard again.
 * @returns indexes of the first words
 */
export function sameElsewhere(words: readonly Word[], { from, to }: Pick<DoubtfulPlace, 'from' | 'to'>): number[] {
  const wanted = words.slice(from, to).map(({ text }) => bareWord(text));
  const found: number[] = [];
  for (let at = 0; at + wanted.length <= words.length; at++) {
    const isSame = wanted.every((text, offset) => {
      const word = words[at + offset]!;
      return word.confidence < 1 && bareWord(word.text) === text;
    });
    const isApart = at + wanted.length <= from || at >= to;
    if (!isSame || !isApart) continue;
    found.push(at);
    at += wanted.length - 1;
  }
  return found;
}
