import type { Rate } from '#core/time';

/** What takes its turn in a group: a reel, a bin with its files one after the other, or a file or a stretch of it. */
export type VariantPart = { id: string } & (
  | { kind: 'reel'; reel: string }
  | { kind: 'bin'; bin: string }
  /** In seconds of the file; null for its ends. */
  | { kind: 'footage'; media: string; name: string; start: number | null; end: number | null }
);

/** Parts of which one is taken at a time: openings, middles, endings. */
export interface VariantGroup {
  id: string;
  name: string;
  parts: VariantPart[];
}

/** Which music the variants have: of each part under that part, of the first part under the whole, one for all, none. */
export type VariantMusic = { of: 'each' | 'first' | 'none' } | { of: 'one'; media: string; name: string };

/** What variants are made of, and which of them are wanted. */
export interface VariantSet {
  schema: 'BrightReel.Variants.1';
  groups: VariantGroup[];
  /** Ids of groups as they follow one another; the same group may stand in it several times. */
  order: string[];
  /** For the names; see `namePlaces`. */
  pattern: string;
  music: VariantMusic;
  /** Null for what most of the parts have. */
  size: { width: number; height: number } | null;
  rate: Rate | null;
  /** Combinations by their keys: all but these, or none but these. */
  ticks: { all: boolean; but: string[] };
}

const firstGroups = ['Openings', 'Middles', 'Endings'].map((name, index): VariantGroup => ({
  id: `00000000-0000-4000-8000-00000000000${index + 1}`,
  name,
  parts: [],
}));
/** Three groups with nothing in them yet. */
export const emptyVariants: VariantSet = {
  schema: 'BrightReel.Variants.1',
  groups: firstGroups,
  order: firstGroups.map(({ id }) => id),
  pattern: '{n} {pieces}',
  music: { of: 'each' },
  size: null,
  rate: null,
  ticks: { all: true, but: [] },
};

/** Groups in the order in which they follow one another, as often as each stands in it. */
export const orderedGroups = ({ groups, order }: Pick<VariantSet, 'groups' | 'order'>): VariantGroup[] =>
  order.flatMap((id) => groups.find((group) => group.id === id) ?? []);
