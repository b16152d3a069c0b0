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
  const placed =
    wanted.length === old.length
      ? old.map(({ differs: _, rivals: __, ...word }, index) => ({ ...word, text: wanted[index]!, confidence: 1 }))
      : spread(wanted, old[0]!.start, old.at(-1)!.end);
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

/** Marks a word as important or not, or says whether captions part after it; `null` leaves that to the machine. */
export function flagWord(
  words: readonly Word[],
  index: number,
  flags: { emphasis?: boolean; breakAfter?: boolean | null },
): Word[] {
  return words.map((word, at) => {
    if (at !== index) return word;
    const { emphasis, breakAfter, ...rest } = word;
    const important = flags.emphasis ?? emphasis;
    const parts = flags.breakAfter === undefined ? breakAfter : (flags.breakAfter ?? undefined);
    return { ...rest, ...(important ? { emphasis: true } : {}), ...(parts === undefined ? {} : { breakAfter: parts }) };
  });
}

/** A word's shortest time, in seconds. */
const leastWord = 0.04;

/** Other times for some words, one after the other: each begins at its time and ends where the next one does, at the latest. Times in seconds of the file. */
export function retimeWords(words: readonly Word[], from: number, starts: readonly number[], end: number): Word[] {
  const out = words.map((word) => ({ ...word }));
  for (const [offset, start] of starts.entries()) {
    const word = out[from + offset];
    if (!word) break;
    word.start = start;
    word.end = Math.max(start + leastWord, starts[offset + 1] ?? end);
    word.confidence = 1;
    delete word.rivals;
  }
  return out.sort((a, b) => a.start - b.start);
}

/** New words in a stretch of time, in place of those that lie mostly inside it. */
export function typeWords(words: readonly Word[], text: string, start: number, end: number): Word[] {
  const kept = words.filter((word) => (word.start + word.end) / 2 < start || (word.start + word.end) / 2 >= end);
  const texts = text.split(/\s+/).filter(Boolean);
  return [...kept, ...(texts.length ? spread(texts, start, end) : [])].sort((a, b) => a.start - b.start);
}
