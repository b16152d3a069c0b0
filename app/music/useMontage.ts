import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import {
  fillNote,
  fillSlots,
  followGrid,
  frameAt,
  joinSlot,
  montageReel,
  moveEdge,
  othersFor,
  pieceFeatures,
  plainFeatures,
  refit,
  slotsByPattern,
  spanOf,
  splitSlot,
  usablePieces,
  type Filling,
  type Heard,
  type Montage,
  type MontagePiece,
  type Pattern,
  type Placed,
  type Slot,
  type SlotResult,
} from '#core/montage';
import { photoFootage, type Decision, type Footage, type Limits, type Mix } from '#core/moments';
import { planHeard, planPictures, reelFormat, musicCurve, type Reel } from '#core/reel';
import { correctGrid, downbeats, type BeatGrid, type GridCorrection, type MusicHearing } from '#core/sound';
import { framesToSeconds } from '#core/time';
import type { StoredMontage } from '#usecases/montages';
import { useLog } from '../page/useLog';
import { useReadings } from '../page/useReadings';
import type { PlayPlan } from '../player/reelPlayer';
import { useReelPlayer } from '../player/useReelPlayer';
import { sourcesFrom } from '#core/reel';
import type { Item } from '#usecases/projects';
import type { GatherAsk } from '../workers/montage.worker';
import { useLatest } from '../ui/useLatest';

export interface Gather {
  mix: Mix;
  limits: Limits;
  photoSeconds: number;
  decisions: Decision[];
}

const newId = () => crypto.randomUUID();
const nothing = () => null;

const sameBeats = (a: BeatGrid, b: BeatGrid): boolean =>
  a.beats.length === b.beats.length && a.beats.every((beat, index) => Math.abs(beat - b.beats[index]!) < 1e-3);

/** A montage under one's hands: its document with undo, what its pieces show, every change of it, and its player. */
export function useMontage(
  projectId: string,
  music: Item,
  hearing: MusicHearing,
  stored: StoredMontage,
  gather: Gather,
  items: readonly Item[],
) {
  const initial = useMemo(
    () => ({ entries: [['montage', stored.document]] as [string, unknown][], versions: { montage: stored.version } }),
    [stored],
  );
  const log = useLog(`/projects/${projectId}/music/${music.id}/montage`, initial);
  const montage = log.entries.get('montage') as Montage;
  const now = useLatest(montage);
  const [problem, setProblem] = useState<string | null>(null);
  const [gathering, setGathering] = useState(false);

  const usable = useMemo(
    () => items.filter((item) => item.probe && item.probe.kind !== 'sound' && !item.problem && item.readAt),
    [items],
  );
  const read = useReadings(
    usable.map((item) => item.id),
    usable.map((item) => String(item.readAt)).join(),
  );
  const footage = useMemo(
    (): Footage[] | null =>
      read &&
      read.map((each) =>
        usable.find((item) => item.id === each.id)?.probe?.kind === 'photo'
          ? photoFootage(each, gather.photoSeconds)
          : each,
      ),
    [read, usable, gather.photoSeconds],
  );
  const features = useMemo(
    () =>
      new Map(
        montage.pieces.map((piece) => [
          piece.id,
          footage
            ? pieceFeatures(piece, footage.find((each) => each.id === piece.media) ?? null)
            : plainFeatures(piece),
        ]),
      ),
    [montage.pieces, footage],
  );
  const heard = useMemo((): Heard => ({ ...hearing, grid: montage.grid }), [hearing, montage.grid]);

  // What somebody put right is no longer in doubt.
  const doubts = useMemo(() => (sameBeats(montage.grid, hearing.grid) ? hearing.doubts : []), [montage.grid, hearing]);

  const change = useCallback(
    (next: Montage, join: string | null = null): boolean => {
      setProblem(null);
      return log.commit([['montage', next]], join);
    },
    [log],
  );
  const featuresOf = useCallback(
    (pieces: readonly MontagePiece[]) =>
      new Map(
        pieces.map((piece) => [
          piece.id,
          features.get(piece.id) ??
            (footage
              ? pieceFeatures(piece, footage.find((each) => each.id === piece.media) ?? null)
              : plainFeatures(piece)),
        ]),
      ),
    [features, footage],
  );
  const filled = useCallback(
    (next: Montage): Montage => {
      const result = fillSlots(
        next.slots,
        next.pieces,
        featuresOf(next.pieces),
        next.filling,
        { ...hearing, grid: next.grid },
        newId,
      );
      return { ...next, slots: result.slots };
    },
    [featuresOf, hearing],
  );
  /** Slots made anew by the pattern, then filled; what is locked stays. */
  const slotted = useCallback(
    (next: Montage): Montage | null => {
      const result = slotsByPattern(next, hearing, newId);
      if (result.ok) return filled({ ...next, slots: result.slots });
      setProblem(result.reason);
      return null;
    },
    [filled, hearing],
  );
  const tryChange = (next: Montage | null, join: string | null = null): boolean => next !== null && change(next, join);
  const withSlots = (result: SlotResult, touched: readonly number[] = []): boolean => {
    if (!result.ok) {
      setProblem(result.reason);
      return false;
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

  // The machine looks for pieces once, when there are none yet; and again when it is asked to.
  const gatherNow = useCallback(() => {
    if (!footage || footage.length === 0) return;
    setGathering(true);
    const worker = new Worker(new URL('../workers/montage.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data: pieces }: MessageEvent<MontagePiece[]>) => {
      worker.terminate();
      setGathering(false);
      if (pieces.length === 0)
        return setProblem(
          'No stretch of the footage is good enough by the limits on the Moments screen. Loosen them there, or take whole files.',
        );
      const locked = now.current.slots.filter((slot) => slot.locked && slot.piece).map((slot) => slot.piece!.piece);
      // What is locked keeps its piece.
      change(
        filled({
          ...now.current,
          pieces: [...now.current.pieces.filter((piece) => locked.includes(piece.id)), ...pieces],
        }),
      );
    };
    worker.onerror = () => (
      worker.terminate(),
      setGathering(false),
      setProblem('Looking for pieces stopped unexpectedly. Try again.')
    );
    const ask: GatherAsk = {
      footage,
      gathering: { mix: gather.mix, limits: gather.limits, decisions: gather.decisions },
      slots: now.current.slots.length,
      names: Object.fromEntries(usable.map((item) => [item.id, item.name.replace(/\.\w+$/, '')])),
    };
    worker.postMessage(ask);
  }, [footage, gather, usable, change, filled, now]);
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current || !footage || montage.pieces.length > 0) return;
    begun.current = true;
    gatherNow();
  }, [footage, montage.pieces.length, gatherNow]);

  /** Others for a slot, in the order in which they come with one key after another. */
  const swapping = useRef<{ slot: string; list: Placed[]; at: number } | null>(null);
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
      setProblem('There is no other piece long enough for this slot.');
      return false;
    }
    swapping.current!.at = (at + direction + list.length) % list.length;
    return setSlot(id, (each) => ({ ...each, piece: list[swapping.current!.at]! }));
  };

  const actions = {
    correct: (correction: GridCorrection) => {
      const result = correctGrid(montage.grid, correction);
      if (!result.ok) return (setProblem(result.reason), false);
      const moved = correction.type === 'shift' || correction.type === 'stretch';
      const slots = moved
        ? followGrid(montage.slots, montage.grid, result.grid).map((slot) =>
            refit(slot, montage.pieces, features, montage.filling, { ...hearing, grid: result.grid }),
          )
        : montage.slots;
      return change({ ...montage, grid: result.grid, slots }, correction.type === 'shift' ? 'shift' : null);
    },
    setGrid: (grid: BeatGrid) => tryChange(slotted({ ...montage, grid })),
    pattern: (pattern: Partial<Pattern>, join: string | null = null) =>
      tryChange(slotted({ ...montage, pattern: { ...montage.pattern, ...pattern } }), join),
    paint: (section: number, every: Pattern['every']) =>
      tryChange(
        slotted({
          ...montage,
          pattern: { ...montage.pattern, painted: { ...montage.pattern.painted, [section]: every } },
        }),
        'paint',
      ),
    span: (start: number, end: number, fadeSeconds?: number) => {
      const span = spanOf(start, end, hearing, downbeats(montage.grid));
      return tryChange(
        slotted({ ...montage, span: fadeSeconds === undefined ? span : { ...span, fadeSeconds } }),
        'span',
      );
    },
    filling: (filling: Partial<Filling>) => change(filled({ ...montage, filling: { ...montage.filling, ...filling } })),
    fillAgain: () => change(filled({ ...montage, filling: { ...montage.filling, seed: montage.filling.seed + 1 } })),
    empty: () =>
      change({
        ...montage,
        slots: montage.slots.map(({ piece, ...slot }) => (slot.locked && piece ? { ...slot, piece } : slot)),
      }),
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
    marks: (marks: number[], join: string | null = null) => change({ ...montage, marks }, join),
    /** Cuts on the marks, everywhere. */
    cutOnMarks: () =>
      tryChange(
        slotted({ ...montage, pattern: { ...montage.pattern, every: 'marks', painted: {}, followEnergy: false } }),
      ),
    pieces: (pieces: MontagePiece[], join: string | null = null) => change(filled({ ...montage, pieces }), join),
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
    gather: gatherNow,
  };

  const sources = useMemo(() => sourcesFrom(items), [items]);
  const reel = useMemo((): Reel => {
    const media = new Map(montage.pieces.map((piece) => [piece.id, piece.media]));
    const shapes = montage.slots.flatMap((slot) => {
      const probe = slot.piece && items.find((item) => item.id === media.get(slot.piece!.piece))?.probe;
      return probe
        ? [
            {
              rate: probe.rate,
              width: probe.kind === 'photo' ? 0 : probe.width,
              height: probe.height,
              seconds: slot.end - slot.start,
            },
          ]
        : [];
    });
    const { rate, size } = reelFormat(shapes);
    return montageReel(montage, 'montage', { media: music.id, name: music.name }, sources, rate, size);
  }, [montage, sources, items, music.id, music.name]);
  const plan = useMemo(
    (): PlayPlan => ({
      rate: reel.rate,
      reel,
      pictures: planPictures(reel),
      sounds: planHeard(reel),
      music: {
        address: `/media/${music.id}`,
        startSeconds: montage.span.start,
        durationSeconds: hearing.durationSeconds,
        curve: musicCurve(reel, []),
      },
    }),
    [reel, music.id, montage.span.start, hearing.durationSeconds],
  );
  const sourceOf = useCallback(
    (media: string) => {
      const item = items.find((each) => each.id === media);
      return item?.probe ? { address: `/media/${media}`, photo: item.probe.kind === 'photo' } : null;
    },
    [items],
  );
  const player = useReelPlayer(plan, { sourceOf, tableOf: nothing, viewOf: nothing });
  const note = useMemo(() => fillNote(montage.slots, montage.pieces, features, montage.filling), [montage, features]);
  const { pieces: fit, shaky } = usablePieces(montage.pieces, features, montage.filling);

  return {
    montage,
    hearing,
    heard,
    doubts,
    features,
    footage,
    reel,
    player,
    actions,
    problem,
    setProblem,
    note,
    gathering,
    items,
    music,
    state: log.state,
    undo: log.undo,
    redo: log.redo,
    fit,
    shaky,
    /** Seconds of the music at the playhead. */
    time: montage.span.start + player.time,
    /** To the first frame that a slot shows. */
    toSlot: (slot: Slot) => player.seek(framesToSeconds(frameAt(slot.start, montage, reel.rate), reel.rate) + 1e-3),
    seek: (seconds: number) => player.seek(Math.max(0, seconds - montage.span.start)),
  };
}

export type MontageDesk = ReturnType<typeof useMontage>;
