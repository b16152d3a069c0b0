import type { Item } from '#usecases/projects';

/** Which items the table shows. */
export const showing = {
  all: () => true,
  videos: (item: Item) => kindOf(item) === 'video',
  photos: (item: Item) => kindOf(item) === 'photo',
  sound: (item: Item) => kindOf(item) === 'sound',
  unread: ({ probe, isRough, problem }: Item) => !problem && (!probe || isRough),
  problems: ({ problem, here, warnings }: Item) => Boolean(problem || here?.isMissing || warnings?.length),
} as const;
const kindOf = ({ probe, arrived }: Item) => (probe ?? arrived)?.kind;

export type Showing = keyof typeof showing;
/** @param given as it stands in the address; anything unknown shows all */
export const showingOf = (given: string | null): Showing =>
  given !== null && Object.hasOwn(showing, given) ? (given as Showing) : 'all';

/** The items of a bin (null for all) in whose name every word of the text is; in the order of their arrival. */
export function shownItems(items: readonly Item[], bin: string | null, show: Showing, text: string): Item[] {
  const words = text.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  return items
    .filter(
      (item) =>
        (bin === null || item.binId === bin) &&
        showing[show](item) &&
        words.every((word) => item.name.toLocaleLowerCase().includes(word)),
    )
    .sort((a, b) => a.position - b.position);
}
