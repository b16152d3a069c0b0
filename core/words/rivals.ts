import { anchorsOf } from './align/anchors';
import { isDoubtful, type RivalWords, type Word } from './types';

/** More to choose among takes longer than typing. */
const mostRivals = 4;
/** A rival that takes the place of more words than these is another sentence. */
const longestRival = 4;

/**
 * What may have been said in the place of doubtful words, by other ways to hear the same sound.
 * @param words of one stretch, as they were heard
 * @param variants other ways to hear it, the likeliest first (N-best list)
 * @returns the words, doubtful ones with their rivals
 */
export function withRivals(words: readonly Word[], variants: readonly (readonly string[])[]): Word[] {
  const texts = words.map(({ text }) => text);
  const found = new Map<number, RivalWords[]>();
  for (const variant of variants) {
    const anchors = [...anchorsOf(texts, variant), { script: texts.length, heard: variant.length }];
    let [own, other] = [0, 0];
    for (const { script, heard } of anchors) {
      const count = script - own;
      const text = variant.slice(other, heard).join(' ');
      const isOne = count > 0 && count <= longestRival && heard - other <= longestRival;
      if (isOne && words.slice(own, script).some(isDoubtful)) {
        const rivals = found.get(own) ?? [];
        if (rivals.length < mostRivals && !rivals.some((each) => each.words === count && each.text === text))
          found.set(own, [...rivals, { words: count, text }]);
      }
      [own, other] = [script + 1, heard + 1];
    }
  }
  return words.map((word, at) => (found.has(at) ? { ...word, rivals: found.get(at)! } : word));
}

/**
 * Texts that may have been said in the place of some words, to choose among.
 * @param from index of the first word, `to` of the one after the last
 */
export function rivalTexts(words: readonly Word[], { from, to }: { from: number; to: number }): string[] {
  const texts = words.slice(from, to).map(({ text }) => text);
  const found = new Set<string>();
  for (let at = from; at < to; at++)
    for (const rival of words[at]!.rivals ?? []) {
      if (at + rival.words > to) continue;
      const [before, after] = [texts.slice(0, at - from), texts.slice(at - from + rival.words)];
      found.add([...before, rival.text, ...after].filter(Boolean).join(' '));
    }
  found.delete(texts.join(' '));
  found.delete('');
  return [...found].slice(0, mostRivals);
}
