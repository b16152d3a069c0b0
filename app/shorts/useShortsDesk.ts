import {
  startTransition,
  useEffect,
  useEffectEvent,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { mainTrack } from '#core/reel';
import { shortParts, type Thumb } from '#core/shorts';
import { framesToSeconds, secondsToFrames, type Range } from '#core/time';
import type { Item } from '#usecases/projects';
import type { ShortSetData } from '#usecases/shorts';
import { newId } from '../newId';
import { useHistory } from '../history/useHistory';
import { useReelDesk, type ReelDesk } from '../reel/useReelDesk';
import { sourceSecond } from './sourceSecond';
import { shortsDocument, withChanges, type ShortsChange } from './shortsDocument';
import { useFraming } from './useFraming';
import { useReload } from '../ui/useReload';

/** What the cards show only: all, praised ones, or those with more of a part than the others. */
export type Filter = '' | 'praised' | (typeof shortParts)[number];
/** Seconds by which two edges may differ and still be the same. */
const sameEdge = 1e-6;

/** All that the place of a set of shorts shows and does. */
export function useShortsDesk(loaded: ShortSetData, items: readonly Item[], projectId: string) {
  const changes = useShortsChanges(loaded, projectId);
  const { set } = changes;
  const address = `/projects/${projectId}/shorts/${set.id}`;
  const [search, setSearch] = useSearchParams();
  const [filter, setFilter] = useState<Filter>('');
  const [tab, setTab] = useState('why');

  const item = items.find((each) => each.id === set.mediaId) ?? null;
  const shorts = useMemo(() => shownOnly(set, filter), [set, filter]);
  const short = shorts.find((each) => each.id === search.get('short')) ?? shorts[0] ?? set.shorts[0] ?? null;
  const desk = useReelDesk(projectId, short?.reel ?? null, items);
  const framing = useFraming(desk);
  const source = useSourcePage(set, item, desk, framing);
  const history = useHistory(projectId, desk.live.participant);
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
    changes.reorder([...ids.slice(0, at), id, ...ids.slice(at)]);
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
    thumb: changes.thumb,
    bringBack: changes.bringBack,
    comesUp: changes.comesUp,
    filter,
    setFilter,
    tab,
    setTab,
    choose,
    step,
    move,
    name: item?.name.replace(/\.\w+$/, '') ?? 'a recording that is gone',
    problem: desk.live.problem ?? changes.problem,
  };
}
export type ShortsDesk = ReturnType<typeof useShortsDesk>;

function shownOnly({ shorts, thumbs }: ShortSetData, filter: Filter): ShortSetData['shorts'] {
  if (filter === '') return shorts;
  if (filter === 'praised') return shorts.filter((short) => thumbs[short.id] === 'up');
  const mean = shorts.reduce((sum, each) => sum + each.parts[filter], 0) / shorts.length;
  return shorts.filter((short) => short.parts[filter] >= mean);
}

/** A set with what waits to be saved on top, and what can be said of its shorts. */
function useShortsChanges(loaded: ShortSetData, projectId: string) {
  const reload = useReload();
  const document = useMemo(() => shortsDocument(projectId, loaded.id), [projectId, loaded.id]);
  const { waiting, saved, problem } = useSyncExternalStore(document.subscribe, document.state, document.state);
  // What the server has taken stays on top until the set is loaded anew: what was put away would be back for a moment.
  const [taken, setTaken] = useState<readonly ShortsChange[]>([]);
  const before = useRef(waiting);
  useLayoutEffect(() => {
    const gone = before.current.filter((change) => !waiting.includes(change));
    before.current = waiting;
    if (gone.length > 0) setTaken((now) => [...now, ...gone]);
  }, [waiting]);
  const shown = useRef(saved);
  useEffect(() => {
    if (shown.current === saved) return;
    shown.current = saved;
    // As late as the new data, which the router shows in a transition.
    void reload().then(() => startTransition(() => setTaken([])));
  }, [saved, reload]);
  const changes = useMemo(() => [...taken, ...waiting], [taken, waiting]);
  const set = useMemo(() => withChanges(loaded, changes), [loaded, changes]);
  const say = (id: string, thumb: Thumb | null) =>
    document.change({ intent: 'thumb', id, thumb }, { intent: 'thumb', id, thumb: set.thumbs[id] ?? null });
  return {
    set,
    /** Another short comes up in the place of one that was put away. */
    comesUp: changes.length > 0 && loaded.more > 0,
    problem,
    bringBack: (id: string) => say(id, null),
    thumb: (id: string, thumb: Thumb | null) => {
      say(id, thumb);
      if (thumb !== 'down') return;
      toast(set.more > 0 ? 'Put away; the next best comes up.' : 'Put away.', {
        action: { label: 'Undo', onClick: () => say(id, null) },
      });
    },
    reorder: (order: string[]) =>
      document.change({ intent: 'order', order }, { intent: 'order', order: set.order ?? null }),
  };
}

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
    const id = newId();
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
