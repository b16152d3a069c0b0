/** Something that can be found by name and then done or opened. */
export interface Findable {
  id: string;
  group: 'Commands' | 'Places' | 'Reels' | 'Shorts' | 'Files' | 'People' | 'Markers';
  name: string;
  /** Beside the name: its keys, or where it is. */
  hint?: string;
  /** Where it leads. */
  to?: string;
  act?(): void;
}

const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLocaleLowerCase();

/** Higher is better; 0 where a word of the query is nowhere in the name. Beginnings of words count more than their middles. */
function merit(name: string, words: readonly string[]): number {
  const text = plain(name);
  let sum = text === words.join(' ') ? 4 : text.startsWith(words[0]!) ? 2 : 0;
  for (const word of words) {
    const at = text.indexOf(word);
    if (at < 0) return 0;
    sum += new RegExp(`(^|[^\\p{L}\\p{N}])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`, 'u').test(text) ? 2 : 1;
  }
  return sum / words.length;
}

/** What fits a query, the best first; alike ones stay in their order. Without a query what is offered first. */
export function find(all: readonly Findable[], query: string, most: number): Findable[] {
  const words = plain(query).split(/\s+/).filter(Boolean);
  if (words.length === 0) return all.filter(({ group }) => group !== 'Commands').slice(0, most);
  return all
    .map((each, index) => ({ each, index, merit: merit(each.name, words) }))
    .filter((found) => found.merit > 0)
    .sort((a, b) => b.merit - a.merit || a.index - b.index)
    .slice(0, most)
    .map(({ each }) => each);
}
