import { objectLabels, type ObjectLabel } from '#core/picture';
import { stem } from './vocabulary';
import type { Thesaurus } from './types';

/** WordNet as `scripts/thesaurus.ts` packs it. */
interface PackedThesaurus {
  /** Words, one space between them. */
  dictionary: string;
  /** Words of the same meaning, one space between them; ";" between meanings. */
  alike: string;
  /** Kinds of things, and which thing they are. */
  things: Record<string, string>;
}

/** Without a thesaurus words mean what the vocabulary says, and no word is taken for a typing error. */
export const noThesaurus: Thesaurus = { knows: () => true, alike: () => [], thing: () => null };

/** Unpacks a thesaurus; word forms are found by their stems. */
function unpackThesaurus(packed: PackedThesaurus): Thesaurus {
  const dictionary = new Set(packed.dictionary.split(' '));
  const stems = new Set([...dictionary].map(stem));
  const alike = new Map<string, string[]>();
  for (const group of packed.alike.split(';')) {
    const words = group.split(' ');
    for (const word of words) {
      const known = alike.get(word);
      const others = words.filter((other) => other !== word);
      if (known) known.push(...others);
      else alike.set(word, others);
    }
  }
  const labels = new Set<string>(objectLabels);
  const things = new Map(
    Object.entries(packed.things).filter((entry): entry is [string, ObjectLabel] => labels.has(entry[1])),
  );
  return {
    knows: (word) => dictionary.has(word) || stems.has(stem(word)),
    alike: (word) => alike.get(word) ?? alike.get(stem(word)) ?? [],
    thing: (phrase) => things.get(phrase) ?? things.get(phrase.replace(/s$/, '')) ?? null,
  };
}

let loaded: Promise<Thesaurus> | null = null;
/**
 * The thesaurus that comes with the product; read once, with the first request, since most who look at footage make none.
 * @throws where it cannot be read, as while the server is away; the next request tries again
 */
export const loadThesaurus = (): Promise<Thesaurus> =>
  (loaded ??= import('./thesaurus.json').then(
    ({ default: packed }) => unpackThesaurus(packed),
    (error: unknown) => {
      loaded = null;
      throw error;
    },
  ));
