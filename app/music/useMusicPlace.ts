import { useCallback, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import {
  addMark,
  moveMark,
  quantiseMarks,
  removeMark,
  tapOffset,
  tidyMarks,
  type Every,
  type Slot,
} from '#core/montage';
import { beatBefore, placeOf, type MusicHearing } from '#core/sound';
import { formatClock } from '#core/time';
import { useHistory } from '../history/useHistory';
import type { StoredMontage } from '#usecases/montages';
import type { Item } from '#usecases/projects';
import type { Gather } from './useGathering';
import { songsOf } from './songsOf';
import { useCounts } from './useCounts';
import { useMontage } from './useMontage';

export interface MusicPlaceProps {
  projectId: string;
  music: Item;
  hearing: MusicHearing;
  stored: StoredMontage;
  gather: Gather;
  reels: { id: string; name: string }[];
  items: Item[];
}

/** Seconds a line of the music, from close to far. */
export const zooms = [8, 12, 24, 48];
/** Seconds by which times may differ and still be the same. */
const slack = 1e-3;
/** Taps that are looked at, to tell whether somebody taps early or late. */
const lookedAtTaps = 16;
/** Seconds of being late that cannot be told from chance. */
const smallestOffset = 0.015;

/** All that the Music place shows and does. */
export function useMusicPlace(props: MusicPlaceProps) {
  const { projectId, music, hearing, stored, gather, reels, items } = props;
  const desk = useMontage(projectId, music, hearing, stored, gather, items);
  const { montage, actions, player, time } = desk;
  const history = useHistory(projectId, null);
  const [tab, setTab] = useState('pieces');
  const [piece, setPiece] = useState<string | null>(null);
  const [brush, setBrush] = useState<Every>(2);
  const [zoom, setZoom] = useState(2);
  const [clicks, setClicks] = useState(false);
  const counts = useCounts(desk);
  const slots = useChosenSlot(desk, () => setTab('slot'));
  const marks = useTappedMarks(desk, hearing.durationSeconds, slots.slot);
  const reel = useReelOf(desk, projectId, music.id);

  const section = hearing.sections.findIndex((each) => time >= each.start - slack && time < each.end);
  const paint = (every: Every) => {
    setBrush(every);
    if (section >= 0) actions.paint(section, every);
  };
  const filled = montage.slots.filter((each) => each.piece);
  const beat = beatBefore(montage.grid, time + 0.02);
  const place = beat >= 0 ? placeOf(montage.grid, beat) : null;
  return {
    ...props,
    ...slots,
    desk,
    history,
    montage,
    actions,
    player,
    counts,
    marks,
    makingReel: reel.making,
    makeReel: reel.make,
    tab,
    setTab,
    piece,
    setPiece,
    brush,
    setBrush,
    paint,
    zoom,
    nearer: () => setZoom(Math.max(0, zoom - 1)),
    farther: () => setZoom(Math.min(zooms.length - 1, zoom + 1)),
    clicks,
    setClicks,
    songs: songsOf(items, music.id),
    filled: filled.length,
    different: new Set(filled.map((each) => each.piece!.piece)).size,
    reelNow: reels.find((each) => each.id === stored.reelId) ?? null,
    placeWords: [formatClock(time, true), ...(place ? [`bar ${place.bar}`, `beat ${place.beat}`] : [])].join(' · '),
  };
}
export type MusicPlace = ReturnType<typeof useMusicPlace>;

/** The slot that keys are about: the chosen one, else the one under the playhead. */
function useChosenSlot(desk: ReturnType<typeof useMontage>, onChoose: () => void) {
  const { montage, player, time } = desk;
  const [chosen, setChosen] = useState<string | null>(null);
  const at = montage.slots.find((each) => time >= each.start - slack && time < each.end - slack);
  const under = at ?? montage.slots.at(-1) ?? null;
  const slot = montage.slots.find((each) => each.id === chosen) ?? under;
  // While it plays, the playhead says which it is.
  useEffect(() => {
    if (player.playing) setChosen(null);
  }, [player.playing]);
  return {
    slot,
    chooseSlot: (id: string | null) => {
      setChosen(id);
      if (id) onChoose();
    },
    toSlot: (by: number) => {
      const next = montage.slots[(slot ? montage.slots.indexOf(slot) : 0) + by];
      if (!next) return;
      setChosen(next.id);
      desk.toSlot(next);
    },
  };
}

/** Marks that are tapped while the music plays, moved, cleared, and put onto beats. */
function useTappedMarks(desk: ReturnType<typeof useMontage>, durationSeconds: number, slot: Slot | null) {
  const { montage, actions, player } = desk;
  const { marks, grid, span } = montage;
  const [chosen, setChosen] = useState<number | null>(null);
  const tapped = useRef<number[]>([]);
  const [offset, setOffset] = useState<number | null>(null);
  const forgetTaps = () => {
    tapped.current = [];
    setOffset(null);
  };
  return {
    chosen,
    choose: setChosen,
    /** Seconds by which the taps come late, where that can be told. */
    late: offset !== null && Math.abs(offset) > smallestOffset ? offset : null,
    tap: () => {
      const at = span.start + player.exact();
      if (at < 0 || at > durationSeconds) return;
      actions.marks(addMark(marks, at));
      tapped.current = [...tapped.current.slice(1 - lookedAtTaps), at];
      setOffset(player.playing ? tapOffset(tapped.current, grid) : null);
    },
    takeOffsetOff: () => {
      const isTapped = (mark: number) => tapped.current.some((own) => Math.abs(own - mark) < 1e-6);
      actions.marks(tidyMarks(marks.map((mark) => (isTapped(mark) ? mark - (offset ?? 0) : mark))));
      forgetTaps();
    },
    /** Moves the chosen mark, else the start of the chosen slot, by seconds. */
    nudge: (by: number) => {
      if (chosen !== null) {
        actions.marks(moveMark(marks, chosen, chosen + by), 'nudge');
        setChosen(Math.max(0, chosen + by));
      } else if (slot && montage.slots[0] !== slot) actions.moveEdge(slot.id, slot.start + by);
    },
    remove: () => {
      if (chosen === null) return;
      actions.marks(removeMark(marks, chosen));
      setChosen(null);
    },
    clear: () => {
      actions.marks([]);
      setChosen(null);
      forgetTaps();
    },
    atStart: () => actions.marks(addMark(marks, span.start)),
    ontoBeats: (halves: boolean) => actions.marks(quantiseMarks(marks, grid, halves)),
  };
}

/** Where the montage goes: a new reel, or at a place of one that is there. */
interface Into {
  into?: string;
  how?: string;
  at?: string;
}

/** A reel out of the montage. It waits until all changes are saved, so that the reel is made of what is seen. */
function useReelOf(desk: ReturnType<typeof useMontage>, projectId: string, mediaId: string) {
  const navigate = useNavigate();
  const [wanted, setWanted] = useState<Into | null>(null);
  const { state, setProblem } = desk;
  const send = useCallback(
    async (into: Into) => {
      const answer = await fetch(`/projects/${projectId}/music/${mediaId}/montage`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ makeReel: true, ...into }),
      }).catch(() => null);
      const body = (await answer?.json().catch(() => null)) as {
        reel?: string;
        problems?: Record<string, string>;
      } | null;
      if (!body) return setProblem('The server does not answer. What you did is kept; try again in a moment.');
      const { reel, problems = {} } = body;
      if (reel) void navigate(`/projects/${projectId}/reels/${reel}`);
      else setProblem(Object.values(problems)[0] ?? 'The reel could not be made. Try again.');
    },
    [projectId, mediaId, navigate, setProblem],
  );
  useEffect(() => {
    if (!wanted || state !== 'saved') return;
    setWanted(null);
    void send(wanted);
  }, [wanted, state, send]);
  return { making: wanted !== null, make: (into: Into = {}) => setWanted(into) };
}
