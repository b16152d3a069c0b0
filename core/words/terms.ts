import { bareWord } from './bare';
import type { Word } from './types';

/** More names than these make a recogniser hear them where they were not said. */
export const mostTerms = 500;
const longestTerm = 60;
const mostWordsOfOne = 5;

/**
 * Names and terms out of a text: one a line, or parted by commas, semicolons or tabs, as lists and tables have them.
 * @returns them as they are written, each once; what is no word or a whole sentence is left out
 */
export function termsIn(text: string): string[] {
  const found = new Map<string, string>();
  for (const part of text.split(/[\n\r,;\t]+/)) {
    const term = part
      .trim()
      .replace(/\s+/g, ' ')
      .replace(/^["'“”‘’(]+|["'“”‘’).:!?]+$/g, '');
    const isTerm = /\p{L}/u.test(term) && term.length <= longestTerm && term.split(' ').length <= mostWordsOfOne;
    if (isTerm && !found.has(term.toLowerCase())) found.set(term.toLowerCase(), term);
  }
  return [...found.values()];
}

/**
 * Names and terms that texts hold and a recogniser cannot know: words with a capital inside a sentence, joined where they
 * stand together, and words that its dictionary has not; the most frequent first.
 * @param words texts that people wrote, with sure words
 * @param isKnown whether the dictionary has a word, in small letters
 */
export function termsToOffer(words: readonly Word[], isKnown: (word: string) => boolean, most = 20): string[] {
  const counts = new Map<string, { term: string; count: number }>();
  const add = (term: string) => {
    const key = term.toLowerCase();
    const known = counts.get(key);
    if (known) known.count++;
    else counts.set(key, { term, count: 1 });
  };
  let name: string[] = [];
  const close = () => {
    if (name.length > 0 && name.length <= mostWordsOfOne) add(name.join(' '));
    name = [];
  };
  for (const [at, word] of words.entries()) {
    const plain = word.text.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '').replace(/['’]s$/, '');
    const isSure = word.confidence === 1 && plain !== '';
    const begins = at === 0 || /[.!?…:]["'”’)]*$/.test(words[at - 1]!.text);
    const hasCapital = /^\p{Lu}/u.test(plain) && !/^I(?:['’]\w+)?$/.test(plain);
    const isUnknown = /^\p{L}/u.test(plain) && plain.length > 2 && !isKnown(bareWord(plain));
    if (!isSure || !((hasCapital && (!begins || isUnknown)) || isUnknown)) {
      close();
      continue;
    }
    if (hasCapital) name.push(plain);
    else {
      close();
      add(plain);
    }
    if (plain !== word.text && /[.,;:!?…]/.test(word.text)) close();
  }
  close();
  return [...counts.values()]
    .sort((a, b) => b.count - a.count)
    .slice(0, most)
    .map(({ term }) => term);
}
