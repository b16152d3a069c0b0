import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { spokenWord } from '#core/words';
import { pronounce, type Pronunciations } from './pronounce';
import { dictionaryFile, languageModelFile } from './sphinx';

/** What makes the recogniser know names and terms, and how it writes them. */
export interface KnownTerms {
  args: string[];
  /** The term that a word of the answer stands for; undefined for words of the language. */
  termOf(word: string): string | undefined;
}

/**
 * Makes the recogniser know names and terms: they stand in its dictionary, as they are said, and in its language model as a
 * class of words that may come anywhere, as likely as an unusual word of the language.
 * @param terms as they are written; some words each
 * @param folder for the files
 */
export async function knowTerms(terms: readonly string[], folder: string, signal?: AbortSignal): Promise<KnownTerms> {
  const own = (name: string) => join(folder, name);
  const said = await pronounce(terms.flatMap(partsOf), 'en', folder, signal);
  const names = new Map<string, string>();
  const rows: string[] = [];
  for (const term of terms) {
    const ways = waysToSay(term, said);
    if (ways.length === 0) continue;
    const name = `${prefix}${names.size}`;
    names.set(name, term);
    ways.forEach((way, variant) => rows.push(`${name}${variant > 0 ? `(${variant + 1})` : ''} ${way}`));
  }
  if (names.size === 0) return { args: [], termOf: () => undefined };
  await writeFile(own('terms.dict'), `${(await readFile(dictionaryFile, 'utf8')).trimEnd()}\n${rows.join('\n')}\n`);
  const members = [...names.keys()].map((name) => `${name} 1`).join('\n');
  await writeFile(own('terms.class'), `LMCLASS terms\n${members}\nEND terms\n`);
  await writeFile(own('terms.models'), `{ ${own('terms.class')} }\n${languageModelFile} words { terms }\n`);
  return {
    args: ['-dict', own('terms.dict'), '-lmctl', own('terms.models'), '-lmname', 'words'],
    termOf: (word) => names.get(word),
  };
}

/** No word of the dictionary has an underscore. */
const prefix = 'term_';

/** Capitals without a vowel between them, and short ones, are read letter by letter (common practice, no source). */
const isSpelt = (word: string) => /^\p{Lu}{2,5}$/u.test(word);
const wordsOf = (term: string) => term.split(/[\s/-]+/).filter((word) => spokenWord(word) !== '');
const partsOf = (term: string) => wordsOf(term).flatMap((word) => (isSpelt(word) ? [word, ...word] : [word]));

/** All ways to say a term: each of its words as it is said, and short ones in capitals by their letters too. */
function waysToSay(term: string, said: Pronunciations): string[] {
  const sayings = wordsOf(term).map((word) => {
    const letters = isSpelt(word) ? [...word].map((letter) => said.get(spokenWord(letter))?.[0]) : [undefined];
    const spelt = letters.every((row) => row !== undefined) ? [letters.join(' ')] : [];
    return [...spelt, ...(said.get(spokenWord(word)) ?? [])];
  });
  if (sayings.length === 0 || sayings.some((ways) => ways.length === 0)) return [];
  const all = sayings.reduce<string[]>(
    (before, ways) => before.flatMap((begun) => ways.map((way) => `${begun} ${way}`.trim())).slice(0, mostWays),
    [''],
  );
  return [...new Set(all)];
}
const mostWays = 6;
