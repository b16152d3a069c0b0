import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { useFetcher, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { mainTrack } from '#core/reel';
import { shortParts, type Thumb } from '#core/shorts';
import { framesToSeconds, secondsToFrames, type Range } from '#core/time';
import type { Item } from '#usecases/projects';
import type { ShortSetData } from '#usecases/shorts';
import { useOneHistory } from '../reel/useOneHistory';
import { useReelDesk, type ReelDesk } from '../reel/useReelDesk';
import { sourceSecond } from './CaptionsPanel';
import { useFraming } from './useFraming';

/** What the cards show only: all, praised ones, or those with more of a part than the others. */
export type Filter = '' | 'praised' | (typeof shortParts)[number];
/** Seconds by which two edges may differ and still be the same. */
const sameEdge = 1e-6;

/** All that the place of a set of shorts shows and does. */
export function useShortsDesk(set: ShortSetData, items: readonly Item[], projectId: string) {
  const address = `/projects/${projectId}/shorts/${set.id}`;
  const [search, setSearch] = useSearchParams();
  const [filter, setFilter] = useState<Filter>('');
  const [tab, setTab] = useState('why');
  const sender = useFetcher<{ problem: string | null }>();
  const send = (body: object) =>
    void sender.submit(body as never, { method: 'post', action: address, encType: 'application/json' });

  const item = items.find((each) => each.id === set.mediaId) ?? null;
  const shorts = useMemo(() => shownOnly(set, filter), [set, filter]);
  const short = shorts.find((each) => each.id === search.get('short')) ?? shorts[0] ?? set.shorts[0] ?? null;
  const desk = useReelDesk(short?.reel ?? null, items);
  const framing = useFraming(desk);
  const source = useSourcePage(set, item, desk, framing);
  const history = useShortsHistory(set, desk, send);
  const { seek, pause } = desk.player;
  useEffect(() => seek(0), [seek, short?.id]);

  const choose = (id: string) => {
    pause();
    source.leave();
    setSearch(
      (now) => {
        now.set('short', id);
        return now;
      },
      { replace: true, preventScrollReset: true },
    );
  };
  const step = (by: number) => {
    const next = shorts[(short ? shorts.indexOf(short) : 0) + by];
    if (next) choose(next.id);
  };
  /** One to the place of another; to the end when that is ''. */
  const move = (id: string, before: string) => {
    const ids = set.shorts.map((each) => each.id).filter((each) => each !== id);
    const at = before ? ids.indexOf(before) : ids.length;
    send({ intent: 'order', order: [...ids.slice(0, at), id, ...ids.slice(at)] });
  };
  return {
    set,
    items,
    projectId,
    address,
    item,
    shorts,
    short,
    desk,
    framing,
    source,
    history,
    filter,
    setFilter,
    tab,
    setTab,
    choose,
    step,
    move,
    name: item?.name.replace(/\.\w+$/, '') ?? 'a recording that is gone',
    problem: desk.live.problem ?? (sender.state === 'idle' ? (sender.data?.problem ?? null) : null),
  };
}
export type ShortsDesk = ReturnType<typeof useShortsDesk>;

function shownOnly({ shorts, thumbs }: ShortSetData, filter: Filter): ShortSetData['shorts'] {
  if (filter === '') return shorts;
  if (filter === 'praised') return shorts.filter((short) => thumbs[short.id] === 'up');
  const mean = shorts.reduce((sum, each) => sum + each.parts[filter], 0) / shorts.length;
  return shorts.filter((short) => short.parts[filter] >= mean);
}

/** Thumbs, and what was done last, which is taken back first: an edit, a word, or a short that was put away. */
function useShortsHistory(set: ShortSetData, desk: ReelDesk, send: (body: object) => void) {
  const edits = useOneHistory(desk);
  /** Shorts that were put away on this visit, the last one at the end. */
  const putAway = useRef<{ id: string; at: number }[]>([]);
  const bringBack = (id: string) => {
    putAway.current = putAway.current.filter((each) => each.id !== id);
    send({ intent: 'thumb', id, thumb: null });
  };
  const lastEdit = () => Math.max(desk.live.lastEdit(), desk.spoken.lastChange());
  return {
    bringBack,
    thumb: (id: string, thumb: Thumb | null) => {
      send({ intent: 'thumb', id, thumb });
      if (thumb !== 'down') return;
      putAway.current.push({ id, at: nowMilliseconds() });
      toast(set.more > 0 ? 'Put away; the next best comes up.' : 'Put away.', {
        action: { label: 'Take back', onClick: () => bringBack(id) },
      });
    },
    undo: () => {
      const last = putAway.current.at(-1);
      if (last && last.at >= lastEdit()) bringBack(last.id);
      else edits.undo();
    },
    redo: edits.redo,
    canUndo: () => Boolean(desk.live.reel?.canUndo) || desk.spoken.lastChange() > 0 || putAway.current.length > 0,
    canRedo: edits.canRedo,
  };
}
/** When something was done, to compare with the times of edits. */
const nowMilliseconds = () => Date.now();

/** The recording that the chosen short comes from: its pieces there, the marked stretch, and edits on it. */
function useSourcePage(set: ShortSetData, item: Item | null, desk: ReelDesk, framing: ReturnType<typeof useFraming>) {
  const [marked, setMarked] = useState<Range | null>(null);
  /** Where one looks, when that is outside the short. */
  const [look, setLook] = useState<number | null>(null);
  const { player, document: reel, live } = desk;
  useEffect(() => {
    if (player.playing) setLook(null);
  }, [player.playing]);

  const pieces = useMemo(() => {
    const clips = reel ? mainTrack(reel).items.filter((each) => each.kind === 'clip') : [];
    const own = clips.filter((clip) => clip.media === set.mediaId);
    return own.map(({ id, sourceIn, frames, speed = 100 }) => ({
      id,
      start: framesToSeconds(sourceIn, reel!.rate),
      end: framesToSeconds(sourceIn + (frames * speed) / 100, reel!.rate),
    }));
  }, [reel, set.mediaId]);

  const goTo = (seconds: number) => {
    const piece = pieces.find((each) => seconds >= each.start && seconds < each.end);
    const segment = piece && desk.segments.find((each) => each.id === piece.id);
    setLook(segment ? null : seconds);
    if (!segment) return;
    desk.setSelectedId(segment.id);
    player.seek(segment.startSeconds + (seconds - piece.start) / segment.speed);
  };
  const trim = (edge: number, to: number) => {
    const isEdge = (seconds: number) => Math.abs(seconds - edge) < sameEdge;
    const piece = pieces.find(({ start, end }) => isEdge(start) || isEdge(end));
    if (!reel || !piece) return;
    const frames = secondsToFrames(to - edge, reel.rate);
    if (frames) live.edit({ type: 'trim', clip: piece.id, edge: isEdge(piece.start) ? 'in' : 'out', frames });
  };

  const [added, setAdded] = useState<string | null>(null);
  const chosenId = desk.clip?.id ?? null;
  const frameAdded = useEffectEvent(() => void framing.frame({}));
  // A piece that was added is framed like the others as soon as it is there.
  useEffect(() => {
    if (!added || chosenId !== added) return;
    setAdded(null);
    frameAdded();
  }, [added, chosenId]);
  /** The marked stretch becomes a piece, at its place in time. */
  const addMarked = () => {
    if (!reel || !marked || !item) return;
    const before = pieces.filter((piece) => piece.start < marked.start).length;
    const at = mainTrack(reel)
      .items.slice(0, before)
      .reduce((sum, each) => sum + each.frames, 0);
    const sourceIn = secondsToFrames(marked.start, reel.rate);
    const frames = Math.max(2, secondsToFrames(marked.end, reel.rate) - sourceIn);
    const id = crypto.randomUUID();
    const clip = { id, media: item.id, name: item.name.replace(/\.\w+$/, ''), sourceIn, frames };
    if (!live.edit({ type: 'put', how: 'insert', at, clips: [clip] })) return;
    setMarked(null);
    desk.setSelectedId(id);
    setAdded(id);
  };
  const sourceAt = sourceSecond(desk);
  return {
    pieces,
    marked,
    setMarked,
    goTo,
    trim,
    addMarked,
    sourceAt,
    playhead: look ?? sourceAt(player.time),
    leave: () => {
      setMarked(null);
      setLook(null);
    },
  };
}
