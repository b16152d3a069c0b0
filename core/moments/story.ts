import { lengthOf, overlap, type Range } from '#core/time';
import type { SeenPerson } from './choose';
import { difference } from './doubles';
import type { Prepared } from './score';
import type { Moment, MomentKind } from './types';

/** How moments follow one another in a reel. */
export const arrangements = ['story', 'time', 'energy', 'people', 'kind'] as const;
/**
 * How moments follow one another in a reel: by time with an opening and an ending; strictly by time; by energy, rising
 * to the strongest shortly before the end and falling again; one person after the other; or one kind after the other.
 */
export type Arrangement = (typeof arrangements)[number];

/** A moment in its place in a reel, and what put it there. */
export interface StoryPiece<M extends Moment = Moment> {
  moment: M;
  /** Missing where it simply comes next. */
  because?: string;
}

const opens: readonly MomentKind[] = ['scenery', 'camera'];
const ends: readonly MomentKind[] = ['reaction', 'group', 'scenery'];
/** The opening is looked for in so much of the reel from its start, the ending in as much from its end. */
const nearEnds = 0.4;
/** Fewer than this are left as they are. */
const fewest = 4;

/**
 * Puts moments into an order that begins and ends like something: a view of the place or a camera move first, a laugh,
 * applause, the group or a wide view last, and no two like shots in a row where another one can stand between them.
 * Common practice, no source.
 * @param moments in the order of time
 * @param peopleIn who is seen in a file, for the order by people
 */
export function tellStory<M extends Moment>(
  moments: readonly M[],
  prepared: ReadonlyMap<string, Prepared>,
  arrangement: Arrangement = 'story',
  peopleIn: (media: string) => readonly SeenPerson[] = () => [],
): StoryPiece<M>[] {
  const inTime = moments.map((moment): StoryPiece<M> => ({ moment }));
  if (arrangement === 'time' || moments.length < fewest) return inTime;
  const order =
    arrangement === 'energy'
      ? byEnergy(inTime)
      : arrangement === 'people'
        ? inGroups(inTime, ({ media, start, end }) => mostSeen(peopleIn(media), { start, end }))
        : arrangement === 'kind'
          ? kindsInOrder.flatMap((kinds) => inTime.filter(({ moment }) => kinds.includes(moment.kind)))
          : inTime;
  return setApart(withEnding(withOpening(order)), prepared);
}

/** Rising to the strongest at three quarters, falling from there: every fourth of the weaker ones comes after it. */
function byEnergy<M extends Moment>(list: readonly StoryPiece<M>[]): StoryPiece<M>[] {
  const sorted = [...list].sort((a, b) => a.moment.score - b.moment.score);
  const strongest = sorted.pop()!;
  const rise: StoryPiece<M>[] = [];
  const fall: StoryPiece<M>[] = [];
  for (const [index, each] of sorted.entries()) (index % 4 === 3 ? fall : rise).push(each);
  return [...rise, { ...strongest, because: 'the strongest, where the reel is at its height' }, ...fall.reverse()];
}

/** What shows the place, what is said, what happens, who was there. */
const kindsInOrder: readonly (readonly MomentKind[])[] = [
  ['scenery', 'camera'],
  ['talk'],
  ['action'],
  ['photo'],
  ['faces', 'group', 'reaction'],
];

/** Groups in the order in which they begin; what belongs to none stays with what it follows. */
function inGroups<M extends Moment>(
  list: readonly StoryPiece<M>[],
  groupOf: (moment: M) => string | null,
): StoryPiece<M>[] {
  const groups = new Map<string | null, StoryPiece<M>[]>();
  let current: string | null = list.map(({ moment }) => groupOf(moment)).find((group) => group !== null) ?? null;
  for (const piece of list) {
    current = groupOf(piece.moment) ?? current;
    const group = groups.get(current);
    if (group) group.push(piece);
    else groups.set(current, [piece]);
  }
  return [...groups.values()].flat();
}

/** Who is in the picture for the longest, if anybody is. */
function mostSeen(people: readonly SeenPerson[], range: Range): string | null {
  let best: string | null = null;
  let most = 0.5;
  for (const { id, ranges } of people) {
    const seconds = ranges.reduce((sum, seen) => sum + overlap(seen, range), 0);
    if (seconds > most) [best, most] = [id, seconds];
  }
  return best;
}

function withOpening<M extends Moment>(list: readonly StoryPiece<M>[]): StoryPiece<M>[] {
  const first = list[0]!;
  if (opens.includes(first.moment.kind))
    return [{ ...first, because: 'opens the reel: it shows the place' }, ...list.slice(1)];
  const reach = Math.max(2, Math.ceil(list.length * nearEnds));
  const at = list.findIndex(({ moment }, index) => index < reach && opens.includes(moment.kind));
  if (at < 0) return [...list];
  const found = { ...list[at]!, because: 'opens the reel: it shows the place' };
  return [found, ...list.slice(0, at), ...list.slice(at + 1)];
}

const endsBy: Partial<Record<MomentKind, string>> = {
  reaction: 'ends the reel: laughter or applause',
  group: 'ends the reel: everybody together',
  scenery: 'ends the reel: a wide view',
};

function withEnding<M extends Moment>(list: readonly StoryPiece<M>[]): StoryPiece<M>[] {
  const reach = Math.floor(list.length * (1 - nearEnds));
  for (const kind of ends) {
    const at = list.findLastIndex(
      ({ moment, because }, index) => index >= Math.max(1, reach) && moment.kind === kind && !because,
    );
    if (at < 0) continue;
    const found = { ...list[at]!, because: endsBy[kind]! };
    return [...list.slice(0, at), ...list.slice(at + 1), found];
  }
  return [...list];
}

/** Pictures at the end of one and the start of the next that differ by less look like one shot with a jump in it. */
const like = 0.03;

function setApart<M extends Moment>(
  list: readonly StoryPiece<M>[],
  prepared: ReadonlyMap<string, Prepared>,
): StoryPiece<M>[] {
  const out = [...list];
  const jumps = (a: StoryPiece<M> | undefined, b: StoryPiece<M> | undefined) => {
    if (!a || !b) return false;
    const [one, two] = [a.moment, b.moment];
    // What goes on without a gap is one shot, and no jump.
    if (one.media === two.media && Math.abs(two.start - one.end) < 0.05) return false;
    const [from, to] = [prepared.get(one.media), prepared.get(two.media)];
    return Boolean(from && to) && difference(from!.footage, one.end - 0.2, to!.footage, two.start + 0.2) < like;
  };
  for (let at = 1; at < out.length - 1; at++) {
    if (!jumps(out[at - 1], out[at])) continue;
    // The next one comes between, if it is like neither and what follows does not jump for it.
    const between = out[at + 1]!;
    if (at + 1 === out.length - 1 && between.because) continue;
    if (between.because || lengthOf(between.moment) <= 0) continue;
    if (jumps(out[at - 1], between) || jumps(between, out[at]) || jumps(out[at], out[at + 2])) continue;
    out[at + 1] = out[at]!;
    out[at] = { ...between, because: 'stands between two shots that look the same' };
  }
  return out;
}
