import { bareWord, type Word } from '#core/words';
import { noThesaurus } from './thesaurus';
import { stem } from './vocabulary';
import type { Lexicon } from './types';

/** What words can mean, out of what was read: people, markers' notes, names, and everything that is spoken. */
export function lexiconOf(
  known: Partial<Pick<Lexicon, 'people' | 'notes' | 'names' | 'thesaurus'>>,
  spokenFiles: readonly (readonly Word[])[],
): Lexicon {
  const texts = spokenFiles.map((words) => words.map((word) => stem(word.text)));
  const first = new Map<string, [number, number][]>();
  for (const [file, stems] of texts.entries())
    for (const [index, word] of stems.entries()) {
      const places = first.get(word);
      if (places) places.push([file, index]);
      else first.set(word, [[file, index]]);
    }
  return {
    people: known.people ?? [],
    notes: (known.notes ?? []).filter((note) => note.trim()),
    names: known.names ?? [],
    thesaurus: known.thesaurus ?? noThesaurus,
    spokenWords: [...new Set(spokenFiles.flatMap((words) => words.map((word) => bareWord(word.text))))],
    spoken: (words) =>
      words.length > 0 &&
      (first.get(words[0]!) ?? []).some(([file, index]) =>
        words.every((word, offset) => texts[file]![index + offset] === word),
      ),
  };
}
