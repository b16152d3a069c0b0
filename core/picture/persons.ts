import { groupPeople, type LookedTrack } from './people';
import type { FaceTrack } from './tracks';

/** A face that was followed through a shot of a file, large enough to tell who it is. */
export interface SeenTrack extends LookedTrack {
  track: FaceTrack;
}

/** What was said of a person by hand. */
export interface SaidPerson {
  id: string;
  /** Empty when none was given. */
  name: string;
  hidden: boolean;
  /** The picture that was chosen; time in seconds of the file. */
  portrait: { media: string; time: number } | null;
  /** Keys of tracks. */
  tracks: readonly string[];
}

interface PersonTrack {
  /** "media/track", unique in the project. */
  key: string;
  media: string;
  /** Seconds of the file. */
  start: number;
  end: number;
  size: FaceTrack['size'];
  smile: number;
}

/** Somebody in the footage of a project. */
export interface Person {
  /** Of what was said by hand, or "auto:KEY" for one whom only the machine knows. */
  id: string;
  name: string;
  /** Whether somebody gave the name. */
  named: boolean;
  /** Of one without a name: the number it is called by, and the track that keeps it. */
  number: { number: number; key: string } | null;
  hidden: boolean;
  /** On screen. */
  seconds: number;
  /** Where to cut out a picture of them; the box in shares of the picture. */
  portrait: { media: string; time: number; box: { x: number; y: number; width: number; height: number } } | null;
  tracks: PersonTrack[];
}

/**
 * Everybody in the footage: as said by hand, else as the machine groups them. A number that somebody was called by stays
 * with them, whoever is named or found beside them.
 * @param seen in the order of the footage
 * @param numbers by the key of the track that keeps them
 * @returns longest on screen first; nobody without an appearance
 */
export function personsOf(
  seen: readonly SeenTrack[],
  said: readonly SaidPerson[],
  numbers: ReadonlyMap<string, number> = new Map(),
): Person[] {
  const knownById = new Map(said.map((each) => [each.id, each]));
  let last = Math.max(0, ...numbers.values());
  return groupPeople(seen, said).flatMap(({ id, tracks }): Person[] => {
    const keys = new Set(tracks);
    const own = seen.filter((each) => keys.has(each.key));
    if (own.length === 0) return [];
    const known = id === null ? undefined : knownById.get(id);
    const longestFirst = [...own].sort((a, b) => b.end - b.start - (a.end - a.start));
    const keeper = longestFirst.find(({ key }) => numbers.has(key)) ?? longestFirst[0]!;
    const number = known?.name ? null : { number: numbers.get(keeper.key) ?? ++last, key: keeper.key };
    return [
      {
        id: known?.id ?? `auto:${tracks[0]!}`,
        name: known?.name || `Person ${number!.number}`,
        named: Boolean(known?.name),
        number,
        hidden: known?.hidden ?? false,
        seconds: own.reduce((sum, { start, end }) => sum + end - start, 0),
        portrait: portraitOf(own, known?.portrait ?? null),
        tracks: own.map(({ key, media, start, end, track: { size, smile } }) => ({
          key,
          media,
          start,
          end,
          size,
          smile,
        })),
      },
    ];
  });
}

/** The chosen picture, else the largest sure face that does not touch the edge. */
function portraitOf(own: readonly SeenTrack[], chosen: SaidPerson['portrait']): Person['portrait'] {
  let best: (NonNullable<Person['portrait']> & { worth: number }) | null = null;
  for (const { media, track } of own)
    for (const { time, box } of track.boxes) {
      const { x, y, width, height, score } = box;
      const inside = x > 0.01 && y > 0.01 && x + width < 0.99 && y + height < 0.99;
      const wanted = chosen && chosen.media === media && Math.abs(chosen.time - time) < 0.3 ? 1000 : 0;
      const worth = score * Math.min(0.35, height) * (inside ? 1 : 0.4) + wanted;
      if (!best || worth > best.worth) best = { media, time, box: { x, y, width, height }, worth };
    }
  return best && { media: best.media, time: best.time, box: best.box };
}
