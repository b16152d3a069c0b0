import { useRef, useState } from 'react';
import {
  enoughTaps,
  gridByTaps,
  sameCountIn,
  tapsTogether,
  tempoWithin,
  type BeatGrid,
  type MusicHearing,
} from '#core/sound';
import { contains, type Range } from '#core/time';
import { shownKey } from '../keys';
import type { useMontage } from './useMontage';

/** A way to count a part of the music. */
export interface Count {
  grid: BeatGrid;
  /** Beats a minute within the part. */
  tempo: number;
  /** Whether the part is counted so now. */
  isOwn: boolean;
}
/** So many other counts are offered for a part. */
const mostRivals = 3;

/** The part of the music that a count at a time is about: the doubtful one there, else the section, else all of it. */
export function partAt(
  seconds: number,
  doubts: readonly Range[],
  { sections, durationSeconds }: Pick<MusicHearing, 'sections' | 'durationSeconds'>,
): Range {
  const { start, end } = [...doubts, ...sections].find((part) => contains(part, seconds)) ?? {
    start: 0,
    end: durationSeconds,
  };
  return { start, end };
}

/** The ways to count a part, the one that is taken last: it is what the others are compared with. */
export function countsOf(part: Range, own: BeatGrid, { doubts, rivals }: MusicHearing): Count[] {
  const doubt = doubts.find(({ start, end }) => start === part.start && end === part.end);
  const others = (doubt?.rivals.map((index) => rivals[index]!) ?? rivals)
    .map(({ grid }) => ({ grid, tempo: tempoWithin(grid, part), isOwn: false }))
    .filter(({ grid, tempo }) => tempo > 0 && !sameCountIn(grid, own, part));
  return [...others.slice(0, mostRivals), { grid: own, tempo: tempoWithin(own, part), isOwn: true }];
}

/** Counts that are heard with clicks before one is taken, and beats that are tapped. */
export function useCounts(desk: ReturnType<typeof useMontage>) {
  const { montage, hearing, doubts, actions, player, time } = desk;
  const [heard, setHeard] = useState<{ part: Range; count: Count } | null>(null);
  const [tapped, setTapped] = useState<{ taps: number[]; part: Range } | null>(null);
  const taps = useRef<number[]>([]);
  /** What commands are about: what is heard, else the doubtful part at the playhead or the first one, else the section there. */
  const part = heard?.part ?? doubts.find((doubt) => contains(doubt, time)) ?? doubts[0] ?? partAt(time, [], hearing);
  const countsIn = (range: Range) => countsOf(range, montage.grid, hearing);

  const hear = (range: Range, count: Count) => {
    setTapped(null);
    setHeard({ part: { start: range.start, end: range.end }, count });
    desk.seek(range.start);
    player.play();
  };
  const putAway = () => {
    taps.current = [];
    setHeard(null);
    setTapped(null);
  };
  const byTaps = (own: readonly number[], range: Range) => gridByTaps(own, hearing.strokes, range, montage.grid.bar);

  return {
    heard,
    tapped,
    hear,
    hearNext: () => {
      const counts = countsIn(part);
      const at = heard ? counts.findIndex(({ grid }) => grid === heard.count.grid) : -1;
      hear(part, counts[(at + 1) % counts.length]!);
    },
    /** Takes what is heard, or what was tapped, for its part or for all of the music. */
    take: (all: boolean) => {
      if (tapped && all) {
        const whole = { start: 0, end: hearing.durationSeconds };
        actions.count(byTaps(tapped.taps, whole), null);
      } else if (heard) actions.count(heard.count.grid, all ? null : heard.part);
      else if (!tapped)
        return desk.setProblem(
          `Nothing is heard yet: press ${shownKey('hearCount')} to hear how else this part could be counted.`,
        );
      putAway();
    },
    putAway,
    tap: () => {
      if (!player.playing)
        return desk.setProblem(`Play the music, and press ${shownKey('tapBeat')} on four beats in a row.`);
      taps.current.push(montage.span.start + player.exact());
      const own = tapsTogether(taps.current);
      taps.current = own;
      setHeard(null);
      // Taps that go on are about the part in which they began.
      const goesOn = tapped !== null && own.includes(tapped.taps[0]!);
      const range = goesOn ? tapped.part : partAt(own[0]!, doubts, hearing);
      const end = Math.max(range.end, Math.min(hearing.durationSeconds, own.at(-1)! + 0.1));
      const around = { start: range.start, end };
      setTapped({ taps: own, part: around });
      if (own.length >= enoughTaps) actions.count(byTaps(own, around), around, 'taps');
    },
  };
}
export type Counts = ReturnType<typeof useCounts>;
