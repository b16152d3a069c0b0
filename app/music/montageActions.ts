import type { RefObject } from 'react';
import {
  fillSlots,
  followGrid,
  joinSlot,
  liesOutside,
  moveEdge,
  othersFor,
  pieceFeatures,
  plainFeatures,
  refit,
  slotsByPattern,
  slotsWithin,
  spanOf,
  splitSlot,
  type Filling,
  type Heard,
  type Montage,
  type MontagePiece,
  type Pattern,
  type Placed,
  type Slot,
  type SlotResult,
} from '#core/montage';
import type { Footage } from '#core/moments';
import {
  correctGrid,
  downbeats,
  gridWithPart,
  sameCountIn,
  type BeatGrid,
  type GridCorrection,
  type MusicHearing,
} from '#core/sound';
import { mergeRanges, type Range } from '#core/time';
import { newId } from '../newId';

type Features = Map<string, ReturnType<typeof plainFeatures>>;

/** Others for a slot, in the order in which they come with one key after another. */
export interface Swapping {
  slot: string;
  list: Placed[];
  at: number;
}

/** What changes of a montage need to know, and how they are made. */
interface About {
  montage: Montage;
  hearing: MusicHearing;
  heard: Heard;
  features: Features;
  featuresOf(pieces: readonly MontagePiece[]): Features;
  footage: readonly Footage[] | null;
  swapping: RefObject<Swapping | null>;
  /** @param join changes with the same name shortly after one another are one step back */
  change(next: Montage, join?: string | null): boolean;
  onProblem(sentence: string): void;
}

/** The slots filled with pieces anew, all or those of a part of the music; what is locked stays. */
export function filled(
  next: Montage,
  { featuresOf, hearing }: Pick<About, 'featuresOf' | 'hearing'>,
  part: Range | null = null,
): Montage {
  const heard = { ...hearing, grid: next.grid };
  const stays = new Set(part ? next.slots.filter((slot) => liesOutside(slot, part)).map(({ id }) => id) : []);
  const held = next.slots.map((slot) => (stays.has(slot.id) ? { ...slot, locked: true } : slot));
  const { slots } = fillSlots(held, next.pieces, featuresOf(next.pieces), next.filling, heard, newId);
  const before = new Map(next.slots.map((slot) => [slot.id, slot]));
  return { ...next, slots: slots.map((slot) => (stays.has(slot.id) ? before.get(slot.id)! : slot)) };
}

/** Every change that can be made of a montage. Each says whether it was made; if not, the problem says why. */
export const montageActions = (about: About) => ({
  ...musicActions(about),
  ...fillingActions(about),
  ...slotActions(about),
  ...pieceActions(about),
});

const refuse = ({ onProblem }: About, sentence: string): false => {
  onProblem(sentence);
  return false;
};

/** Makes slots anew by the pattern, all or those of a part of the music, then fills them; what is locked stays. */
function changeSlotted(
  about: About,
  next: Montage,
  { join = null, part = null }: { join?: string | null; part?: Range | null } = {},
): boolean {
  const result = slotsByPattern(next, about.hearing, newId);
  if (!result.ok) return refuse(about, result.reason);
  const slots = part ? slotsWithin(next.slots, result.slots, part, newId) : result.slots;
  return about.change(filled({ ...next, slots }, about, part), join);
}

/** Beats, and how the picture changes with them. */
function musicActions(about: About) {
  const { montage, hearing, features, change } = about;
  return {
    correct: (correction: GridCorrection) => {
      const result = correctGrid(montage.grid, correction);
      if (!result.ok) return refuse(about, result.reason);
      const moved = correction.type === 'shift' || correction.type === 'stretch';
      const slots = moved
        ? followGrid(montage.slots, montage.grid, result.grid).map((slot) =>
            refit(slot, montage.pieces, features, montage.filling, { ...hearing, grid: result.grid }),
          )
        : montage.slots;
      return change({ ...montage, grid: result.grid, slots }, correction.type === 'shift' ? 'shift' : null);
    },
    setGrid: (grid: BeatGrid) => changeSlotted(about, { ...montage, grid }),
    /** Counts a part of the music, or all of it, as this grid does; what was counted so already is settled by that. */
    count: (grid: BeatGrid, part: Range | null, join: string | null = null) => {
      const own = part ?? { start: 0, end: hearing.durationSeconds };
      const settled = mergeRanges([...(montage.settled ?? []), own]);
      if (sameCountIn(grid, montage.grid, own)) return change({ ...montage, settled }, join);
      const next = part ? gridWithPart(montage.grid, grid, part) : grid;
      return changeSlotted(about, { ...montage, grid: next, settled }, { join, part });
    },
    pattern: (pattern: Partial<Pattern>, join: string | null = null) =>
      changeSlotted(about, { ...montage, pattern: { ...montage.pattern, ...pattern } }, { join }),
    paint: (section: number, every: Pattern['every']) => {
      const painted = { ...montage.pattern.painted, [section]: every };
      const part = hearing.sections[section] ?? null;
      return changeSlotted(about, { ...montage, pattern: { ...montage.pattern, painted } }, { join: 'paint', part });
    },
    span: (start: number, end: number, fadeSeconds?: number) => {
      const span = spanOf(start, end, hearing, downbeats(montage.grid));
      return changeSlotted(
        about,
        { ...montage, span: fadeSeconds === undefined ? span : { ...span, fadeSeconds } },
        { join: 'span' },
      );
    },
    marks: (marks: number[], join: string | null = null) => change({ ...montage, marks }, join),
    /** Cuts on the marks, everywhere. */
    cutOnMarks: () => {
      const pattern: Pattern = { ...montage.pattern, every: 'marks', painted: {}, followEnergy: false };
      return changeSlotted(about, { ...montage, pattern });
    },
  };
}

function fillingActions(about: About) {
  const { montage, change } = about;
  return {
    filling: (filling: Partial<Filling>) =>
      change(filled({ ...montage, filling: { ...montage.filling, ...filling } }, about)),
    fillAgain: () => {
      const other = otherFilling(about);
      return other ? change(other) : refuse(about, noOtherFilling(montage));
    },
    empty: () =>
      change({
        ...montage,
        slots: montage.slots.map(({ piece, ...slot }) => (slot.locked && piece ? { ...slot, piece } : slot)),
      }),
  };
}

/** More seeds than these are not tried; each gives chance more weight. */
const seedsTried = 12;

/** The montage filled again, so that it differs from what it was. @returns null when no seed gives anything else */
function otherFilling(about: About): Montage | null {
  const { montage } = about;
  const placed = ({ slots }: Montage) => JSON.stringify(slots.map(({ start, end, piece }) => [start, end, piece]));
  const now = placed(montage);
  for (let more = 1; more <= seedsTried; more++) {
    const next = filled({ ...montage, filling: { ...montage.filling, seed: montage.filling.seed + more } }, about);
    if (placed(next) !== now) return next;
  }
  return null;
}

function noOtherFilling({ slots, filling }: Montage): string {
  if (slots.every(({ locked }) => locked)) return 'Every slot is locked; there is nothing to fill again.';
  return filling.order === 'sorted' || filling.order === 'time'
    ? 'In this order pieces fill the slots in one way only; choose another order for another filling.'
    : 'These pieces fill these slots in one way only.';
}

function slotActions(about: About) {
  const { montage, features, heard, swapping, change } = about;
  const withSlots = (result: SlotResult, touched: readonly number[] = []): boolean => {
    if (!result.ok) {
      return refuse(about, result.reason);
    }
    return change({
      ...montage,
      slots: result.slots.map((slot, index) =>
        touched.includes(index) ? refit(slot, montage.pieces, features, montage.filling, heard) : slot,
      ),
    });
  };
  const indexOf = (id: string) => montage.slots.findIndex((slot) => slot.id === id);
  const setSlot = (id: string, to: (slot: Slot) => Slot) =>
    change({ ...montage, slots: montage.slots.map((slot) => (slot.id === id ? to(slot) : slot)) });

  const swap = (id: string, direction: 1 | -1) => {
    const slot = montage.slots[indexOf(id)];
    if (!slot) return false;
    const known = swapping.current;
    if (!known || known.slot !== id || known.list[known.at]?.piece !== slot.piece?.piece) {
      const others = othersFor(montage.slots, id, montage.pieces, features, montage.filling, heard);
      swapping.current = { slot: id, list: [...(slot.piece ? [slot.piece] : []), ...others], at: 0 };
    }
    const { list, at } = swapping.current!;
    if (list.length < 2) {
      return refuse(about, 'There is no other piece long enough for this slot.');
    }
    swapping.current!.at = (at + direction + list.length) % list.length;
    return setSlot(id, (each) => ({ ...each, piece: list[swapping.current!.at]! }));
  };

  return {
    swap,
    lock: (ids: readonly string[]) => {
      const lock = !ids.every((id) => montage.slots[indexOf(id)]?.locked);
      return change({
        ...montage,
        slots: montage.slots.map(({ locked, ...slot }) =>
          ids.includes(slot.id) ? (lock ? { ...slot, locked: true } : slot) : locked ? { ...slot, locked } : slot,
        ),
      });
    },
    split: (id: string, at: number) => withSlots(splitSlot(montage.slots, id, at, newId()), [indexOf(id)]),
    join: (id: string) => withSlots(joinSlot(montage.slots, id), [indexOf(id)]),
    moveEdge: (id: string, to: number) => withSlots(moveEdge(montage.slots, id, to), [indexOf(id) - 1, indexOf(id)]),
    place: (id: string, placed: Placed, join: string | null = null) =>
      change(
        { ...montage, slots: montage.slots.map((slot) => (slot.id === id ? { ...slot, piece: placed } : slot)) },
        join,
      ),
  };
}

function pieceActions(about: About) {
  const { montage, features, featuresOf, footage, heard, change } = about;
  return {
    pieces: (pieces: MontagePiece[], join: string | null = null) => change(filled({ ...montage, pieces }, about), join),
    /** Changes of one piece; where it is shown, it is shown as it is now. */
    piece: (id: string, to: Partial<MontagePiece>, join: string | null = null) => {
      const pieces = montage.pieces.map((piece) => (piece.id === id ? { ...piece, ...to } : piece));
      const next = { ...montage, pieces };
      const own = featuresOf([]);
      for (const piece of pieces)
        own.set(
          piece.id,
          piece.id === id && footage
            ? pieceFeatures(piece, footage.find((each) => each.id === piece.media) ?? null)
            : (features.get(piece.id) ?? plainFeatures(piece)),
        );
      return change(
        {
          ...next,
          slots: montage.slots.map((slot) =>
            slot.piece?.piece === id
              ? refit(
                  { ...slot, piece: { piece: id, sourceStart: slot.piece.sourceStart } },
                  pieces,
                  own,
                  montage.filling,
                  heard,
                )
              : slot,
          ),
        },
        join,
      );
    },
  };
}
