import { lengthOf, type Range } from '#core/time';
import type { FileKnown, SeenPerson } from './choose';
import type { SaidWord } from './sameWords';

/** Somebody in the footage, as People knows them. */
export interface KnownPerson {
  id: string;
  /** Whether somebody gave the name. */
  named: boolean;
  tracks: readonly (Range & { media: string })[];
}

/** Somebody without a name counts when seen so long, in seconds, or so often; passers-by are no reason to take a piece. */
const longEnough = 5,
  oftenEnough = 3;

/** Who is worth showing in a reel, and when they are in the picture, by file. */
export function peopleToShow(people: readonly KnownPerson[]): Map<string, SeenPerson[]> {
  const out = new Map<string, SeenPerson[]>();
  for (const { id, named, tracks } of people) {
    const seconds = tracks.reduce((sum, track) => sum + lengthOf(track), 0);
    if (!named && seconds < longEnough && tracks.length < oftenEnough) continue;
    for (const media of new Set(tracks.map((track) => track.media))) {
      const seen = { id, ranges: tracks.filter((track) => track.media === media) };
      const known = out.get(media);
      if (known) known.push(seen);
      else out.set(media, [seen]);
    }
  }
  return out;
}

/**
 * What is known of each file of `media`, for choosing. What is the same as `before` is the same object again, so that what was worked
 * out with it is kept.
 */
export function knowFiles(
  media: readonly string[],
  people: readonly KnownPerson[],
  words: Readonly<Record<string, readonly SaidWord[]>>,
  clocks: Readonly<Record<string, NonNullable<FileKnown['clock']>>> = {},
  before: ReadonlyMap<string, FileKnown> = new Map(),
): Map<string, FileKnown> {
  const shown = peopleToShow(people);
  return new Map(
    media.map((id): [string, FileKnown] => {
      const last = before.get(id);
      return [
        id,
        {
          people: sameOr(last?.people, shown.get(id) ?? []),
          words: sameOr(last?.words, words[id] ?? []),
          clock: clocks[id] ?? null,
        },
      ];
    }),
  );
}

const sameOr = <T>(before: readonly T[] | undefined, now: readonly T[]): readonly T[] =>
  before?.length === now.length && JSON.stringify(before) === JSON.stringify(now) ? before : now;
