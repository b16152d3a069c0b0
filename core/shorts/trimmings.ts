import { mergeRanges, subtractRanges, type Range } from '#core/time';
import { meanIngredients, type Prepared } from '#core/moments';
import type { Word } from '#core/words';

/** Pauses longer than this are cut where nothing happens in them; so much is left after the last word and before the next, so that a breath survives. Common practice, no source. */
const longPause = 0.75;
/** Left after and before what is said, in seconds, so that a breath survives; common practice, no source. */
export const breathAfter = 0.4,
  breathBefore = 0.15;
/** Something happens where action or sound is above this. */
const eventful = 0.3;

/** Pauses between words in which nothing happens, without the breath that is left at both sides. */
export function idlePauses(words: readonly Word[], prepared: Prepared): Range[] {
  const found: Range[] = [];
  for (let index = 1; index < words.length; index++) {
    const pause = { start: words[index - 1]!.end, end: words[index]!.start };
    if (pause.end - pause.start < longPause) continue;
    const means = meanIngredients(prepared, pause.start, pause.end);
    if (Math.max(means.action, means.sound) > eventful) continue;
    found.push({ start: pause.start + breathAfter, end: pause.end - breathBefore });
  }
  return found;
}

const bare = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}']/gu, '');
/** A start that was begun again follows within so many seconds. */
const soon = 1.6;
const longestRepeat = 5;

/**
 * Starts that were begun again: one to five words that are said twice in a row, as in "we tested it we tested it with
 * flour"; the first time goes. What ends a sentence was meant, and so is a single word said twice with strength.
 */
export function repeatedStarts(words: readonly Word[]): Range[] {
  const found: Range[] = [];
  for (let at = 0; at < words.length; at++) {
    for (let length = Math.min(longestRepeat, Math.floor((words.length - at) / 2)); length >= 1; length--) {
      const first = words.slice(at, at + length);
      const second = words.slice(at + length, at + 2 * length);
      const same = first.every(
        (word, index) => bare(word.text) !== '' && bare(word.text) === bare(second[index]!.text),
      );
      if (!same || /[.!?…,]["'”’)]*$/.test(first.at(-1)!.text) || second[0]!.start - first.at(-1)!.end > soon) continue;
      // One long word twice is stress ("very very"); one short one is a stutter ("the the").
      if (length === 1 && (bare(first[0]!.text).length > 3 || /^(no|so|go)$/.test(bare(first[0]!.text)))) continue;
      found.push({ start: first[0]!.start, end: second[0]!.start });
      at += length - 1;
      break;
    }
  }
  return found;
}

/** Gaps shorter than this are not worth a cut, and pieces shorter than this would only flash up. */
const leastCut = 0.2,
  leastPiece = 0.25;

/** What is left of a recording when some of it is cut out, and how long stretches of it are then. */
export class Trimmed {
  private readonly out: Range[];
  private readonly sums: number[];

  constructor(cutOut: readonly Range[]) {
    this.out = mergeRanges(cutOut.filter((range) => range.end - range.start >= leastCut));
    let sum = 0;
    this.sums = this.out.map((range) => (sum += range.end - range.start));
  }

  /** Seconds that are cut out before a time. */
  private before(time: number): number {
    let [low, high] = [0, this.out.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.out[middle]!.end <= time) low = middle + 1;
      else high = middle;
    }
    const next = this.out[low];
    return (this.sums[low - 1] ?? 0) + (next && next.start < time ? time - next.start : 0);
  }

  shown(range: Range): number {
    return range.end - range.start - (this.before(range.end) - this.before(range.start));
  }

  pieces(range: Range): Range[] {
    const within = this.out.filter((each) => each.end > range.start && each.start < range.end);
    return subtractRanges(range, within).filter((piece) => piece.end - piece.start >= leastPiece);
  }
}
