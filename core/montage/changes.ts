import type { Montage, MontagePiece, Slot } from './types';

/** Parts of a montage that are sent as they are; its lists are sent by what changed in them. */
const whole = ['grid', 'settled', 'marks', 'span', 'pattern', 'filling'] as const;
type Whole = (typeof whole)[number];

/** What changed in a list whose things have ids. */
interface ListChanges<T extends { id: string }> {
  /** New things, and those that are not as they were. */
  put?: T[];
  /** All ids in their order, when that is another one. */
  order?: string[];
}

/** A montage's way from one version to the next; small, however large the montage is. */
export type MontageChanges = { [K in Whole]?: Montage[K] } & {
  pieces?: ListChanges<MontagePiece>;
  slots?: ListChanges<Slot>;
};

const isSame = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

function listChanges<T extends { id: string }>(before: readonly T[], after: readonly T[]): ListChanges<T> | null {
  const known = new Map(before.map((each) => [each.id, each]));
  const put = after.filter((each) => !isSame(known.get(each.id), each));
  const order = after.map(({ id }) => id);
  const moved = order.length !== before.length || before.some(({ id }, index) => id !== order[index]);
  if (put.length === 0 && !moved) return null;
  return { ...(put.length ? { put } : {}), ...(moved ? { order } : {}) };
}

/** What leads from one state of a montage to another; `applyChanges` is its other half. */
export function changesBetween(before: Montage, after: Montage): MontageChanges {
  const changed = whole.filter((part) => !isSame(before[part], after[part]));
  const pieces = listChanges(before.pieces, after.pieces);
  const slots = listChanges(before.slots, after.slots);
  return {
    ...(Object.fromEntries(changed.map((part) => [part, after[part]])) as { [K in Whole]?: Montage[K] }),
    ...(pieces ? { pieces } : {}),
    ...(slots ? { slots } : {}),
  };
}

function changedList<T extends { id: string }>(before: readonly T[], changes: ListChanges<T> | undefined): T[] {
  const { put = [], order = before.map(({ id }) => id) } = changes ?? {};
  const things = new Map([...before, ...put].map((each) => [each.id, each]));
  return order.flatMap((id) => things.get(id) ?? []);
}

/** The montage after its changes; whether it is a sound one is for the caller to check. */
export const applyChanges = (before: Montage, { pieces, slots, ...parts }: MontageChanges): Montage => ({
  ...before,
  ...parts,
  pieces: changedList(before.pieces, pieces),
  slots: changedList(before.slots, slots),
});
