import { formatTimeOfDay } from '#core/sentences';
import { useMemo, useState } from 'react';
import { separate, type SeparationChoice } from '#core/moments';
import { totalLength } from '#core/time';
import type { useMomentsModel } from './model/useMomentsModel';
import type { NewReel, useReelBelow } from './useReelBelow';

type Side = 'steady' | 'shaky';
const sides: readonly Side[] = ['steady', 'shaky'];

interface About {
  model: ReturnType<typeof useMomentsModel>;
  below: ReturnType<typeof useReelBelow>;
  /** Of what is parted. */
  name: string;
  /** Whether its cameras ran at the same time. */
  inStep: boolean;
  reels: readonly { id: string }[];
}

/** How what is shown is parted into steady and shaky: the rule, what it comes to now, and the two reels. */
export function useSeparation({ model, below, name, inStep, reels }: About) {
  const { footage, nameOf, notes } = model;
  const choice = notes.separation;
  const [open, setOpen] = useState(false);
  const parted = useMemo(
    () =>
      open ? footage.filter((each) => !each.whole).map((each) => ({ id: each.id, ...separate(each, choice) })) : [],
    [open, footage, choice],
  );
  const sum = (side: Side) => ({
    pieces: parted.reduce((count, part) => count + part[side].length, 0),
    seconds: parted.reduce((seconds, part) => seconds + totalLength(part[side]), 0),
  });
  // Files that did not run at the same time have no place beside one another.
  const canKeep = inStep || footage.length === 1;
  const inPlace = canKeep && (choice.inPlace ?? inStep);
  const isThere = (id: string | null | undefined): string | null =>
    id != null && reels.some((reel) => reel.id === id) ? id : null;
  const last = { steady: isThere(choice.last?.steady), shaky: isThere(choice.last?.shaky) };

  const make = (replace: boolean) => {
    if (below.making) return;
    const times = replace ? Math.max(1, choice.times) : choice.times + 1;
    const at = formatTimeOfDay(new Date());
    const wanted = sides.flatMap((side): (NewReel & { side: Side })[] => {
      const pieces = parted.flatMap((part) =>
        part[side].map((range) => ({ media: part.id, ...range, name: nameOf(part.id) })),
      );
      const replaces = replace ? last[side] : null;
      return pieces.length > 0
        ? [{ side, name: `${name}, ${side} ${times}, ${at}`, inPlace, pieces, ...(replaces ? { replaces } : {}) }]
        : [];
    });
    if (wanted.length === 0) return;
    setOpen(false);
    below.make(
      wanted.map(({ side: _, ...reel }) => reel),
      false,
      (made) => {
        const idOf = (side: Side) =>
          made[wanted.findIndex((each) => each.side === side)]?.id ?? (replace ? last[side] : null);
        notes.setSeparation({ ...choice, times, last: { steady: idOf('steady'), shaky: idOf('shaky') } });
      },
    );
  };
  return {
    open,
    setOpen,
    choice,
    change: (values: Partial<SeparationChoice>) =>
      notes.setSeparation({ ...choice, ...values }, Object.keys(values).join()),
    steady: sum('steady'),
    shaky: sum('shaky'),
    inPlace,
    canKeep,
    /** Whether the reels that were made last are there, so that these can take their place. */
    hasLast: last.steady !== null || last.shaky !== null,
    making: below.making,
    make,
  };
}
export type SeparationDesk = ReturnType<typeof useSeparation>;
