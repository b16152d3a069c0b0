import type { Word } from './types';

/**
 * Puts other text in the place of some words; the times stay. With as many words as before each keeps its own time,
 * otherwise they share the whole stretch by their length. Empty text takes the words out.
 * @param from index of the first word, `to` of the one after the last
 */
export function correctWords(words: readonly Word[], from: number, to: number, text: string): Word[] {
  const wanted = text.split(/\s+/).filter(Boolean);
  const old = words.slice(from, to);
  if (old.length === 0) return [...words];
  const placed = wanted.length === old.length ? old.map((word, index) => ({ ...word, text: wanted[index]!, confidence: 1 })) : spread(wanted, old[0]!.start, old.at(-1)!.end);
  return [...words.slice(0, from), ...placed, ...words.slice(to)];
}

/** Words that share a stretch of time, each by its number of letters. */
export function spread(texts: readonly string[], start: number, end: number): Word[] {
  const total = texts.reduce((sum, text) => sum + weight(text), 0);
  let at = start;
  return texts.map((text) => {
    const from = at;
    at += ((end - start) * weight(text)) / total;
    return { text, start: from, end: at, confidence: 1 };
  });
}

/** Letters take time, and so does every word's beginning. */
const weight = (text: string) => text.replace(/[^\p{L}\p{N}]/gu, '').length + 2;
