import type { Range } from '#core/time';
import { sameEdge } from './slots';
import type { Slot } from './types';

/** A slot that only half lies in the part is not cut shorter than this. */
const shortest = 0.25;

/**
 * Slots of which only those inside a part of the music are made anew: the others keep their edges and pieces, also those
 * that were moved by hand.
 * @param made slots over the same stretch of the music as `old`
 */
export function slotsWithin(old: readonly Slot[], made: readonly Slot[], part: Range, makeId: () => string): Slot[] {
  if (old.length === 0) return [...made];
  const before = old.filter((slot) => slot.end <= part.start + sameEdge);
  const after = old.filter((slot) => slot.start >= part.end - sameEdge);
  const [from, to] = [before.at(-1)?.end ?? made[0]!.start, after[0]?.start ?? made.at(-1)!.end];
  const taken = new Set([...before, ...after].map(({ id }) => id));
  const edges = made.map(({ start }) => start).filter((edge) => edge > from + shortest && edge < to - shortest);
  const between =
    to - from <= sameEdge
      ? []
      : [from, ...edges].map((start, index): Slot => {
          const end = edges[index] ?? to;
          const known = made.find((slot) => Math.abs(slot.start - start) < sameEdge && !taken.has(slot.id));
          return { ...(known ?? { id: makeId() }), start, end };
        });
  return [...before, ...between, ...after];
}

/** Whether a slot lies outside a part of the music, so that a change of the part leaves it as it is. */
export const liesOutside = (slot: Range, part: Range): boolean =>
  slot.end <= part.start + sameEdge || slot.start >= part.end - sameEdge;
