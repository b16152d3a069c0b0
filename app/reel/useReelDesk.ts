import { useEffect, useMemo, useRef } from 'react';
import {
  clipFor,
  itemsFrames,
  linkedWith,
  mainTrack,
  reelFrames,
  sourcesFrom,
  takeUp,
  transferPieces,
  type Carried,
  type Clip,
  type Placing,
  type WantedPiece,
} from '#core/reel';
import { framesToSeconds, rates, secondsToFrames } from '#core/time';
import type { Item } from '#usecases/projects';
import type { LiveReel, MusicBeatsOf } from '#usecases/reels';
import { newId } from '../newId';
import { useReelPlayer } from '../player/useReelPlayer';
import { useSurroundings } from '../player/useSurroundings';
import { reelActions } from './reelActions';
import { useChosenPieces } from './useChosenPieces';
import { useReel } from './useReel';
import { usePlayable, useReelPlan } from './useReelPlan';

/** A reel on the desk: the document under one's hands, its plan, its player, the pieces that are chosen, and edits at the playhead. */
export function useReelDesk(
  projectId: string,
  opened: LiveReel | null,
  items: readonly Item[],
  heardBeats: MusicBeatsOf | null = null,
) {
  const sources = useMemo(() => sourcesFrom(items), [items]);
  const live = useReel(opened, sources);
  const document = live.reel?.document ?? null;
  const rate = document?.rate ?? rates['30'];
  const playable = usePlayable(items);
  const planned = useReelPlan(projectId, document, sources, heardBeats, playable.sourceOf);
  const { plan, segments, above, beside } = planned;
  const redraw = useRef<() => void>(() => undefined);
  const { tableOf, viewOf } = useSurroundings(projectId, document, playable.shapeOf, () => redraw.current());
  const player = useReelPlayer(plan, { sourceOf: playable.sourceOf, tableOf, viewOf });
  const { seek, redraw: redrawNow, time, playing } = player;
  useEffect(() => {
    redraw.current = redrawNow;
  }, [redrawNow]);
  const pieces = useChosenPieces({ document, segments, above, beside, time, playing });
  const { setSelectedId, clip, chosen } = pieces;

  const pick = (at: number) => {
    const target = segments[Math.max(0, Math.min(segments.length - 1, at))];
    if (!target) return;
    setSelectedId(target.id);
    seek(target.startSeconds);
  };
  const { edit } = live;
  const playFrame = secondsToFrames(time, rate);
  const goTo = useGoTo(document, seek);
  /** The last of what was put in is chosen, and the playhead goes behind it, so that the next piece follows it. */
  const goBehind = (first: number, put: readonly { id: string; frames: number }[]) => {
    setSelectedId(put.at(-1)!.id);
    goTo(framesToSeconds(first + put.reduce((sum, each) => sum + each.frames, 0), rate));
  };
  const putClips = (how: Placing, clips: Omit<Clip, 'kind'>[]): boolean => {
    if (!document || clips.length === 0) return false;
    const at = how === 'append' ? reelFrames(document) : playFrame;
    const done = edit({ type: 'put', how, at, clips });
    if (done) goBehind(at, clips);
    return done;
  };
  const put = (how: Placing, wanted: readonly WantedPiece[]): boolean =>
    putClips(
      how,
      wanted.flatMap((piece) => {
        const made = clipFor(piece, sources.get(piece.media), rate, newId());
        if (!made) return [];
        const { kind: _, ...rest } = made;
        return [rest];
      }),
    );
  /** The chosen pieces as they go to another reel, with everything that belongs to them. */
  const takeUpChosen = (): Carried | null =>
    document && chosen.length > 0 ? takeUp(document, new Set(chosen.map(({ id }) => id))) : null;
  const putCarried = (how: 'insert' | 'append', carried: Carried): boolean => {
    const command = document && transferPieces(carried, document, how, playFrame, newId);
    if (!document || !command || !edit(command)) return false;
    const first = how === 'append' ? itemsFrames(mainTrack(document).items) : playFrame;
    const commands = command.type === 'several' ? command.commands : [command];
    const pictures = commands.flatMap((each) => (each.type === 'put' && each.how !== 'sound' ? each.clips : []));
    if (pictures.length > 0) goBehind(first, pictures);
    return true;
  };
  const toMarker = (direction: 1 | -1) => {
    const markers = document?.markers ?? [];
    const target =
      direction > 0
        ? markers.find((marker) => marker.frame > playFrame)
        : markers.findLast((marker) => marker.frame < playFrame);
    if (target) seek(framesToSeconds(target.frame, rate) + 1e-4);
  };
  return {
    live,
    reel: live.reel,
    document,
    rate,
    ...planned,
    ...playable,
    player,
    sources,
    items,
    ...pieces,
    pick,
    put,
    takeUpChosen,
    putCarried,
    actions: reelActions({
      document,
      rate,
      clip,
      chosen,
      under: segments[pieces.playIndex],
      playFrame,
      sources,
      edit,
      takeUpChosen,
      putCarried,
    }),
    toMarker,
    playFrame,
    /** The separate sound of the chosen piece. */
    linked: document && clip ? linkedWith(document, clip) : [],
    total: document ? framesToSeconds(reelFrames(document), rate) : 0,
    step: framesToSeconds(1, rate),
  };
}

export type ReelDesk = ReturnType<typeof useReelDesk>;

/** Where the playhead goes, in seconds, once what was just put in is planned. */
function useGoTo(document: unknown, seek: (seconds: number) => void): (seconds: number) => void {
  const wanted = useRef<number | null>(null);
  useEffect(() => {
    if (wanted.current === null || !document) return;
    seek(wanted.current);
    wanted.current = null;
  }, [document, seek]);
  return (seconds) => {
    wanted.current = seconds;
  };
}
