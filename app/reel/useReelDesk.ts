import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { captionLines, captionRules } from '#core/captions';
import { wordsInReel } from '#core/formats';
import { framesPerSecond, framesToSeconds, rates, secondsToFrames } from '#core/time';
import { useReadings } from '../readings/useReadings';
import { emptyPlan, type PlayPlan } from '../player/reelPlayer';
import { useReelPlayer } from '../player/useReelPlayer';
import { useSurroundings } from '../player/useSurroundings';
import type { Item } from '#usecases/projects';
import {
  beatFrames,
  clipFor,
  clipsAbove,
  clipsBeside,
  clipsOf,
  itemsFrames,
  linkedWith,
  locate,
  mainTrack,
  musicCurve,
  planHeard,
  planPictures,
  planSound,
  reelFrames,
  segmentAt,
  sourcesFrom,
  speechInReel,
  takeUp,
  transferPieces,
  type Carried,
  type Clip,
  type Placing,
  type ReelCommand,
  type Segment,
  type WantedPiece,
} from '#core/reel';
import type { LiveReel, MusicBeatsOf } from '#usecases/reels';
import { useReel } from './useReel';
import { useSpoken } from '../words/useSpoken';

/** Pieces that were copied; the same for all reels, so that they can be put into another one. */
let clipboard: Carried | null = null;
/** How long a frame is held. */
const holdSeconds = 2;

/** A reel on the desk: the document under one's hands, its plan, its player, the pieces that are chosen, and edits at the playhead. */
export function useReelDesk(
  projectId: string,
  opened: LiveReel | null,
  items: readonly Item[],
  heardBeats: MusicBeatsOf | null = null,
) {
  const spoken = useSpoken(projectId);
  const sources = useMemo(() => sourcesFrom(items), [items]);
  const live = useReel(opened, sources);
  const document = live.reel?.document ?? null;
  const rate = document?.rate ?? rates['30'];
  const heard = useMemo(
    () => (document?.music ? [...new Set(clipsOf(document).map((clip) => clip.media))].sort() : []),
    [document],
  );
  // Only music must know who speaks; without it nothing is planned anew when readings come.
  const known = useReadings(heard);
  const readings = document?.music ? known : null;
  const captioned = useMemo(
    () => (document?.captions ? [...new Set(clipsOf(document).map((clip) => clip.media))].sort() : []),
    [document],
  );
  const { need } = spoken;
  useEffect(() => need(captioned), [need, captioned]);
  const wordsOf = spoken.words;
  const captions = useMemo(
    () =>
      document?.captions
        ? captionLines(
            wordsInReel(document, (media) => wordsOf.get(media)?.words ?? []),
            { ...captionRules, letters: document.captions.letters },
          )
        : [],
    [document, wordsOf],
  );
  const plan = useMemo((): PlayPlan => {
    if (!document) return emptyPlan;
    const { music } = document;
    const source = music && sources.get(music.media);
    const speech = music
      ? speechInReel(document, (media) => readings?.find((each) => each.id === media)?.runs ?? [])
      : [];
    return {
      captions,
      logo: document.logo ? `/media/${document.logo.media}` : null,
      rate: document.rate,
      reel: document,
      pictures: planPictures(document),
      sounds: planHeard(document),
      music:
        music && source
          ? {
              address: `/media/${music.media}`,
              startSeconds: music.startSeconds,
              durationSeconds: source.durationSeconds,
              curve: musicCurve(document, speech),
            }
          : null,
    };
  }, [document, readings, sources, captions]);
  const above = useMemo(() => (document ? clipsAbove(document) : []), [document]);
  const beside = useMemo(() => (document ? clipsBeside(document) : []), [document]);
  const segments = useMemo(
    () => (document ? planSound(document).filter((segment) => segment.id !== 'silence') : []),
    [document],
  );
  const itemOf = useCallback((media: string) => items.find((item) => item.id === media) ?? null, [items]);
  const sourceOf = useCallback(
    (media: string | null) => {
      const item = media === null ? null : itemOf(media);
      return item?.probe ? { address: `/media/${media}`, photo: item.probe.kind === 'photo' } : null;
    },
    [itemOf],
  );
  const shapeOf = useCallback(
    (media: string) => {
      const probe = itemOf(media)?.probe;
      return probe?.width ? probe.height / probe.width : 9 / 16;
    },
    [itemOf],
  );
  const redraw = useRef<() => void>(() => undefined);
  const { tableOf, viewOf } = useSurroundings(projectId, document, shapeOf, () => redraw.current());
  const player = useReelPlayer(plan, { sourceOf, tableOf, viewOf });
  const { seek, redraw: redrawNow } = player;
  useEffect(() => {
    redraw.current = redrawNow;
  }, [redrawNow]);

  const musicBeats = document?.music && heardBeats?.media === document.music.media ? heardBeats : null;
  const beats = useMemo(
    () => (document && musicBeats ? beatFrames(document, musicBeats.beats) : []),
    [document, musicBeats],
  );

  const [selectedId, selectOne] = useState<string | null>(null);
  /** Others chosen beside it. */
  const [more, setMore] = useState<ReadonlySet<string>>(new Set());
  const setSelectedId = useCallback((id: string | null) => {
    selectOne(id);
    setMore(new Set());
  }, []);
  const playIndex = segmentAt(segments, player.time);
  const selected = segments.findIndex((segment) => segment.id === selectedId);
  const index = selected >= 0 ? selected : playIndex;
  const segment: Segment | null =
    above.find((each) => each.id === selectedId) ??
    beside.find((each) => each.id === selectedId) ??
    segments[index] ??
    null;
  const found = (segment && document && locate(document, segment.id)) ?? null;
  const clip = found?.clip ?? null;
  const chosen = useMemo(
    () => (document ? clipsOf(document).filter((each) => each.id === clip?.id || more.has(each.id)) : []),
    [document, clip, more],
  );
  useEffect(() => {
    if (player.playing) setSelectedId(segments[playIndex]?.id ?? null);
  }, [player.playing, playIndex, segments, setSelectedId]);

  const { edit } = live;
  /** Chooses a piece; with `add` beside the others, with `upTo` everything between. */
  const choose = (id: string, how: 'only' | 'add' | 'upTo' = 'only') => {
    if (how === 'only' || !clip) return setSelectedId(id);
    if (how === 'add') {
      if (id === clip.id) return;
      return setMore((now) => (now.has(id) ? new Set([...now].filter((each) => each !== id)) : new Set([...now, id])));
    }
    const [from, to] = [
      segments.findIndex((each) => each.id === clip.id),
      segments.findIndex((each) => each.id === id),
    ];
    if (from >= 0 && to >= 0)
      setMore(
        new Set(
          segments
            .slice(Math.min(from, to), Math.max(from, to) + 1)
            .filter((each) => each.media !== null && each.id !== clip.id)
            .map((each) => each.id),
        ),
      );
  };
  const chooseAll = () =>
    setMore(new Set(segments.filter((each) => each.media !== null && each.id !== clip?.id).map((each) => each.id)));
  const pick = (at: number) => {
    const target = segments[Math.max(0, Math.min(segments.length - 1, at))];
    if (!target) return;
    setSelectedId(target.id);
    player.seek(target.startSeconds);
  };
  /** Where the playhead goes once the new pieces are planned. */
  const goTo = useRef<number | null>(null);
  useEffect(() => {
    if (goTo.current === null || !document) return;
    seek(goTo.current);
    goTo.current = null;
  }, [document, seek]);
  const playFrame = secondsToFrames(player.time, rate);
  const putClips = (how: Placing, clips: Omit<Clip, 'kind'>[]): boolean => {
    if (!document || clips.length === 0) return false;
    const at = how === 'append' ? reelFrames(document) : playFrame;
    const done = edit({ type: 'put', how, at, clips });
    if (done) {
      // The playhead goes behind what was put in, so that the next piece follows it.
      setSelectedId(clips.at(-1)!.id);
      goTo.current = framesToSeconds(at + clips.reduce((sum, each) => sum + each.frames, 0), rate);
    }
    return done;
  };
  const put = (how: Placing, pieces: readonly WantedPiece[]): boolean =>
    putClips(
      how,
      pieces.flatMap((piece) => {
        const made = clipFor(piece, sources.get(piece.media), rate, crypto.randomUUID());
        if (!made) return [];
        const { kind: _, ...rest } = made;
        return [rest];
      }),
    );
  /** The chosen pieces as they go to another reel, with everything that belongs to them. */
  const takeUpChosen = (): Carried | null =>
    document && chosen.length > 0 ? takeUp(document, new Set(chosen.map(({ id }) => id))) : null;
  const putCarried = (how: 'insert' | 'append', carried: Carried): boolean => {
    const command = document && transferPieces(carried, document, how, playFrame, () => crypto.randomUUID());
    if (!document || !command || !edit(command)) return false;
    const first = how === 'append' ? itemsFrames(mainTrack(document).items) : playFrame;
    const pictures = [command]
      .flatMap((each) => (each.type === 'several' ? each.commands : [each]))
      .flatMap((each) => (each.type === 'put' && each.how !== 'sound' ? each.clips : []));
    if (pictures.length === 0) return true;
    setSelectedId(pictures.at(-1)!.id);
    goTo.current = framesToSeconds(first + pictures.reduce((sum, each) => sum + each.frames, 0), rate);
    return true;
  };
  const onClip = (make: (id: string) => ReelCommand) => () => (clip ? edit(make(clip.id)) : false);
  /** The same for all that are chosen, as one step. */
  const onChosen = (name: string, make: (each: Clip) => ReelCommand | null) => (): boolean => {
    const commands = chosen.flatMap((each) => make(each) ?? []);
    if (commands.length === 0) return false;
    return edit(
      commands.length === 1 ? commands[0]! : { type: 'several', name: `${name} ${commands.length} pieces`, commands },
    );
  };
  const under = segments[playIndex];
  const into = under ? playFrame - under.startFrame : 0;
  const actions = {
    takeOut: onChosen('took out', (each) => ({ type: 'remove', clip: each.id })),
    lift: onChosen('lifted', (each) => ({ type: 'lift', clip: each.id })),
    split: () => (under?.media ? edit({ type: 'split', clip: under.id, at: into, newId: crypto.randomUUID() }) : false),
    /** The piece under the playhead begins, or ends, at the playhead. */
    trimIn: (inPlace = false) =>
      under?.media && into > 0
        ? edit({ type: 'trim', clip: under.id, edge: 'in', frames: into, ...(inPlace ? { inPlace } : {}) })
        : false,
    trimOut: (inPlace = false) =>
      under?.media && into > 0 && into < under.frames
        ? edit({
            type: 'trim',
            clip: under.id,
            edge: 'out',
            frames: into - under.frames,
            ...(inPlace ? { inPlace } : {}),
          })
        : false,
    hold: () =>
      under?.media
        ? edit({
            type: 'hold',
            clip: under.id,
            at: Math.min(into, under.frames - 1),
            frames: Math.round(holdSeconds * framesPerSecond(rate)),
            newId: crypto.randomUUID(),
          })
        : false,
    roll: (frames: number) => onClip((id) => ({ type: 'roll', clip: id, frames }))(),
    slip: (frames: number) => onClip((id) => ({ type: 'slip', clip: id, frames }))(),
    mark: (note = '') =>
      document ? edit({ type: 'mark', marker: { id: crypto.randomUUID(), frame: playFrame, note } }) : false,
    mute: onChosen('muted', (each) => ({ type: 'sound', clip: each.id, muted: !clip?.muted })),
    copy: () => {
      clipboard = takeUpChosen() ?? clipboard;
      return chosen.length;
    },
    paste: () => (clipboard ? putCarried('insert', clipboard) : false),
  };
  const markers = document?.markers ?? [];
  const toMarker = (direction: 1 | -1) => {
    const target =
      direction > 0
        ? markers.find((marker) => marker.frame > playFrame)
        : markers.findLast((marker) => marker.frame < playFrame);
    if (target) player.seek(framesToSeconds(target.frame, rate) + 1e-4);
  };
  return {
    live,
    reel: live.reel,
    document,
    captions,
    spoken,
    rate,
    beats,
    musicBeats,
    readings,
    plan,
    segments,
    above,
    beside,
    player,
    itemOf,
    sourceOf,
    shapeOf,
    sources,
    items,
    segment,
    found,
    clip,
    chosen,
    index,
    selectedId,
    setSelectedId,
    choose,
    chooseAll,
    pick,
    put,
    takeUpChosen,
    putCarried,
    actions,
    toMarker,
    playFrame,
    /** The separate sound of the chosen piece. */
    linked: document && clip ? linkedWith(document, clip) : [],
    total: document ? framesToSeconds(reelFrames(document), rate) : 0,
    step: framesToSeconds(1, rate),
  };
}

export type ReelDesk = ReturnType<typeof useReelDesk>;
