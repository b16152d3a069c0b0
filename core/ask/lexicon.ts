import type { Word } from '#core/words';
import { stem } from './vocabulary';
import type { Lexicon } from './types';

/** What words can mean, out of what was read: people, markers' notes, and everything that is spoken. */
export function lexiconOf(
  people: Lexicon['people'],
  notes: readonly string[],
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
    people,
    notes: notes.filter((note) => note.trim()),
    spoken: (words) =>
      words.length > 0 &&
      (first.get(words[0]!) ?? []).some(([file, index]) =>
        words.every((word, offset) => texts[file]![index + offset] === word),
      ),
  };
}
