import { anchorsOf } from './align/anchors';
import { isDoubtful, type Word } from './types';

const sureness = (words: readonly Word[]) => words.reduce((sum, { confidence }) => sum + confidence, 0) / words.length;
const middle = ({ start, end }: Word) => (start + end) / 2;

/**
 * Words with what was heard again in some stretches, by a recogniser that knows more by now. Words on which both agree stay;
 * between them what is surer stands, and only in the place of words that were doubtful: what a person wrote is sure.
 * @param again what was heard anew, in order
 * @param stretches in which it was, in seconds of the file
 * @returns the words, and how many of them are new
 */
export function takeBetter(
  words: readonly Word[],
  again: readonly Word[],
  stretches: readonly { start: number; end: number }[],
): { words: Word[]; taken: number } {
  const out = [...words];
  let taken = 0;
  // From the last on, so that the places of those before it stay.
  for (const stretch of stretches.toReversed()) {
    const isInside = (word: Word) => middle(word) >= stretch.start && middle(word) < stretch.end;
    const first = out.findIndex(isInside);
    if (first < 0) continue;
    const old = out.slice(first, out.findLastIndex(isInside) + 1);
    const heard = again.filter(isInside);
    const texts = (list: readonly Word[]) => list.map(({ text }) => text);
    const anchors = anchorsOf(texts(old), texts(heard));
    const next: Word[] = [];
    let [from, other] = [0, 0];
    for (const { script, heard: at } of [...anchors, { script: old.length, heard: heard.length }]) {
      const [own, anew] = [old.slice(from, script), heard.slice(other, at)];
      const isBetter =
        anew.length > 0 && own.length > 0 && own.every(isDoubtfulOrNear(own)) && sureness(anew) > sureness(own);
      next.push(...(isBetter ? anew : own));
      if (isBetter) taken += anew.length;
      const agreed = old[script];
      if (agreed) next.push(agreed.confidence < heard[at]!.confidence ? surer(agreed, heard[at]!) : agreed);
      [from, other] = [script + 1, at + 1];
    }
    out.splice(first, old.length, ...next);
  }
  return { words: out, taken };
}

/** Words that were not typed and stand with a doubtful one: one that was misheard takes its neighbours along. */
const isDoubtfulOrNear = (own: readonly Word[]) => {
  const hasDoubt = own.some(isDoubtful);
  return (word: Word) => hasDoubt && word.confidence < 1;
};

/** The same word, as sure as it was heard the second time. */
function surer({ rivals: _, ...word }: Word, { confidence, rivals }: Word): Word {
  return { ...word, confidence, ...(rivals ? { rivals } : {}) };
}
