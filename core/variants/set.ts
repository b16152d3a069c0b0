import { clashes, fileNames, joinReels, musicDefaults, type JoinedMusic, type Reel } from '#core/reel';
import { combinations, countCombinations } from './combinations';
import { partName, partReel, variantFormat, type PartFootage, type VariantFormat } from './parts';
import { orderedGroups, type VariantGroup, type VariantMusic, type VariantPart, type VariantSet } from './types';

/** So many combinations stand in the table; of more, so many spread evenly over all. */
export const mostListed = 2000;
/** No more than these are made at once. */
export const mostMade = 500;

/** A combination: which part stands at each place, and whether it is wanted. */
export interface Variant {
  key: string;
  parts: VariantPart[];
  ticked: boolean;
}

/** A set worked out: what its parts are now, and every combination. */
export interface WorkedOut {
  format: VariantFormat;
  /** By part id; what is not there any more, or has nothing to show, is missing. */
  reels: ReadonlyMap<string, Reel>;
  /** Places that something stands at; empty groups do not count. */
  places: VariantGroup[];
  /** Combinations there are; the list holds at most `mostListed`. */
  count: number;
  list: Variant[];
}

/** What the parts of a set are now, in one format. */
export function workOutParts(
  { groups, size, rate }: Pick<VariantSet, 'groups' | 'size' | 'rate'>,
  footage: PartFootage,
  makeId: () => string,
): Pick<WorkedOut, 'format' | 'reels'> {
  const format = variantFormat({ groups, size, rate }, footage);
  const reels = new Map<string, Reel>();
  for (const part of groups.flatMap((group) => group.parts)) {
    const reel = partReel(part, footage, format, makeId);
    if (reel) reels.set(part.id, reel);
  }
  return { format, reels };
}

/** Every combination of a set. What a screen lists here is what a server makes. */
export function listVariants(set: VariantSet, { format, reels }: Pick<WorkedOut, 'format' | 'reels'>): WorkedOut {
  const places = orderedGroups(set)
    .map((group) => ({ ...group, parts: group.parts.filter(({ id }) => reels.has(id)) }))
    .filter((group) => group.parts.length > 0);
  const lists = places.map((group) => group.parts);
  const but = new Set(set.ticks.but);
  const list = combinations(lists, mostListed).map((parts): Variant => {
    const key = keyOf(parts);
    return { key, parts, ticked: set.ticks.all !== but.has(key) };
  });
  return { format, reels, places, count: countCombinations(lists), list };
}

const keyOf = (parts: readonly VariantPart[]): string => parts.map(({ id }) => id).join('/');

/** Names of the variants that are wanted, by their keys: counted in the order of the list. */
export function variantNames(
  { list }: Pick<WorkedOut, 'list'>,
  pattern: string,
  footage: PartFootage,
  date?: Date,
): Map<string, string> {
  const wanted = list.filter(({ ticked }) => ticked);
  const names = fileNames(
    wanted.map(({ parts }) => {
      const pieces = parts.map((part) => partName(part, footage) ?? '');
      return { title: pieces.join(' '), pieces };
    }),
    pattern,
    date,
  );
  return new Map(wanted.map(({ key }, index) => [key, names[index]!]));
}

/** Names that two variants would have. */
export const namesTwice = (names: ReadonlyMap<string, string>): string[] => clashes([...names.values()]);

/** A variant as a reel. */
export function variantReel(
  name: string,
  { parts }: Pick<Variant, 'parts'>,
  { reels }: Pick<WorkedOut, 'reels'>,
  music: VariantMusic,
  footage: PartFootage,
  makeId: () => string,
): Reel {
  const own = parts.map(({ id }) => reels.get(id)!);
  return joinReels(name, own, makeId, footage.sources, joinedMusic(music, footage));
}

/** Music that is not in the project any more is left out. */
function joinedMusic(music: VariantMusic, { sources }: PartFootage): JoinedMusic {
  if (music.of !== 'one') return music.of;
  return sources.has(music.media) ? { ...musicDefaults, media: music.media, name: music.name } : 'none';
}

/** The set with some combinations ticked, or not. */
export function tick(set: VariantSet, keys: readonly string[], wanted: boolean): VariantSet {
  const but = new Set(set.ticks.but);
  for (const key of keys) {
    if (wanted === set.ticks.all) but.delete(key);
    else but.add(key);
  }
  return { ...set, ticks: { all: set.ticks.all, but: [...but] } };
}

/** The set with all combinations ticked, or none. */
export const tickAll = (set: VariantSet, wanted: boolean): VariantSet => ({
  ...set,
  ticks: { all: wanted, but: [] },
});

/** The set with so many combinations ticked, spread evenly, so that every part has its turn. */
export function tickSome(set: VariantSet, { places }: Pick<WorkedOut, 'places'>, count: number): VariantSet {
  const lists = places.map((group) => group.parts);
  const spread = combinations(lists, Math.min(count, mostListed));
  return count >= countCombinations(lists)
    ? tickAll(set, true)
    : { ...set, ticks: { all: false, but: spread.map(keyOf) } };
}

/** What a part holds: two with the same show the same. */
const contentOf = (part: VariantPart): string =>
  part.kind === 'footage' ? [part.media, part.start, part.end].join() : part.kind === 'reel' ? part.reel : part.bin;

/** Whether the same piece stands in a combination twice. */
export const repeats = ({ parts }: Pick<Variant, 'parts'>): boolean =>
  new Set(parts.map(contentOf)).size < parts.length;

/** The set with a group used once more, at the end. */
export const placeAgain = (set: VariantSet, group: string): VariantSet => ({ ...set, order: [...set.order, group] });

/** The set with what stands at a place moved by one, or as it was at an end. */
export function movePlace(set: VariantSet, place: number, by: 1 | -1): VariantSet {
  const order = [...set.order];
  const [own, other] = [order[place], order[place + by]];
  if (own === undefined || other === undefined) return set;
  order[place] = other;
  order[place + by] = own;
  return { ...set, order };
}

/** The set without a place; a group that stands nowhere any more goes with it. */
export function removePlace(set: VariantSet, place: number): VariantSet {
  const order = set.order.toSpliced(place, 1);
  return { ...set, order, groups: set.groups.filter(({ id }) => order.includes(id)) };
}
