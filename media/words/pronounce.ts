import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { arpabetOf, spokenWord } from '#core/words';
import { capture } from '../capture';
import { dictionaryFile } from './sphinx';

/** How words are said, each as one or more rows of phones of the CMU dictionary. */
export type Pronunciations = ReadonlyMap<string, readonly string[]>;

/** Voices of espeak-ng that go by another name than their language. */
const voices: Record<string, string> = { en: 'en-us', fr: 'fr-fr', zh: 'cmn', nb: 'nb', no: 'nb', pt: 'pt-br' };

/**
 * How words are said: English ones as the dictionary of the recogniser's model has them, with their variants; all others, numbers
 * among them, as espeak-ng would say them by the rules of their language.
 * @param words as they are written
 * @param language BCP 47
 * @param folder for intermediate files
 */
export async function pronounce(
  words: Iterable<string>,
  language: string,
  folder: string,
  signal?: AbortSignal,
): Promise<Pronunciations> {
  const wanted = [...new Set([...words].map(spokenWord))].filter(Boolean);
  const found = new Map<string, string[]>();
  const base = language.toLowerCase().split('-')[0]!;
  if (base === 'en') {
    const known = await dictionary();
    for (const word of wanted) {
      const rows = inDictionary(word, known);
      if (rows.length > 0) found.set(word, rows);
    }
  }
  const rest = wanted.filter((word) => !found.has(word));
  for (const [word, row] of await spelt(rest, voices[base] ?? base, folder, signal)) found.set(word, [row]);
  return found;
}

let shared: Promise<ReadonlyMap<string, readonly string[]>> | null = null;
/** Words of the CMU dictionary with all their pronunciations; read once. */
function dictionary(): Promise<ReadonlyMap<string, readonly string[]>> {
  shared ??= readFile(dictionaryFile, 'utf8').then((text) => {
    const known = new Map<string, string[]>();
    for (const line of text.split('\n')) {
      const space = line.indexOf(' ');
      if (space < 1) continue;
      const word = line.slice(0, space).replace(/\(\d+\)$/, '');
      known.set(word, [...(known.get(word) ?? []), line.slice(space + 1).trim()]);
    }
    return known;
  });
  shared.catch(() => (shared = null));
  return shared;
}

/** Tells of words in small letters whether the recogniser's dictionary has them; of none where it is not installed. */
export async function isInDictionary(): Promise<(word: string) => boolean> {
  const known = await dictionary().catch(() => null);
  return (word) => known !== null && inDictionary(word, known).length > 0;
}

/** Words with a hyphen are said one part after the other; what belongs to somebody has an s. */
function inDictionary(word: string, known: ReadonlyMap<string, readonly string[]>): string[] {
  const own = known.get(word);
  if (own) return [...own];
  const parts = word.split('-').filter(Boolean);
  if (parts.length > 1) {
    const rows = parts.map((part) => known.get(part)?.[0]);
    return rows.every((row) => row !== undefined) ? [rows.join(' ')] : [];
  }
  const owner = /^(.+)'s?$/.exec(word)?.[1];
  const rows = (owner && known.get(owner)) || [];
  return rows.map(
    (row) => `${row} ${/(?:P|T|K|F|TH)$/.test(row) ? 'S' : /(?:S|Z|SH|ZH|CH|JH)$/.test(row) ? 'IH Z' : 'Z'}`,
  );
}

/** Letters to sounds by the rules of espeak-ng (its voice, such as “en-us”); what it cannot say is left out. */
async function spelt(
  words: readonly string[],
  voice: string,
  folder: string,
  signal?: AbortSignal,
): Promise<[string, string][]> {
  if (words.length === 0) return [];
  const say = async (list: readonly string[]) => {
    const file = join(folder, 'spelt.txt');
    // A paragraph each, so that each is a line of the answer.
    await writeFile(file, list.map((word) => `${word}.\n\n`).join(''));
    const answer = await capture('espeak-ng', ['-q', '--ipa', '-v', voice, '-f', file], { signal });
    return answer.toString().trim().split('\n');
  };
  let lines = await say(words).catch((error: unknown) => {
    signal?.throwIfAborted();
    // A voice that is not there says nothing; words are said in English then, which is nearer than nothing.
    if (voice === 'en-us') throw error;
    return null;
  });
  if (!lines) return spelt(words, 'en-us', folder, signal);
  // One that makes more or fewer lines than itself would move all after it.
  if (lines.length !== words.length) {
    lines = [];
    for (const word of words) lines.push((await say([word])).join(' '));
  }
  return words.flatMap((word, at) => {
    const row = arpabetOf(lines[at]!).join(' ');
    return row ? [[word, row] as [string, string]] : [];
  });
}
