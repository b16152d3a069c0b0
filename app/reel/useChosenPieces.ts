import { useCallback, useEffect, useMemo, useState } from 'react';
import { clipsOf, locate, segmentAt, type Reel, type Segment } from '#core/reel';

interface Around {
  document: Reel | null;
  /** Pieces of the main track, those above it, and those that are only heard. */
  segments: readonly Segment[];
  above: readonly Segment[];
  beside: readonly Segment[];
  /** The playhead, in seconds. */
  time: number;
  playing: boolean;
}

/** Which pieces of a reel are chosen: one that panels show, and others beside it. While the reel plays, the one that is shown. */
export function useChosenPieces({ document, segments, above, beside, time, playing }: Around) {
  const [selectedId, selectOne] = useState<string | null>(null);
  const [more, setMore] = useState<ReadonlySet<string>>(new Set());
  const setSelectedId = useCallback((id: string | null) => {
    selectOne(id);
    setMore(new Set());
  }, []);
  const playIndex = segmentAt(segments, time);
  const selected = segments.findIndex((segment) => segment.id === selectedId);
  const index = selected >= 0 ? selected : playIndex;
  const isSelected = (each: Segment) => each.id === selectedId;
  const segment = above.find(isSelected) ?? beside.find(isSelected) ?? segments[index] ?? null;
  const found = (segment && document && locate(document, segment.id)) ?? null;
  const clip = found?.clip ?? null;
  const chosen = useMemo(
    () => (document ? clipsOf(document).filter((each) => each.id === clip?.id || more.has(each.id)) : []),
    [document, clip, more],
  );
  useEffect(() => {
    if (playing) setSelectedId(segments[playIndex]?.id ?? null);
  }, [playing, playIndex, segments, setSelectedId]);

  const withoutGaps = (among: readonly Segment[]) =>
    new Set(among.filter((each) => each.media !== null && each.id !== clip?.id).map((each) => each.id));
  const toggle = (id: string) =>
    setMore((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  /** Chooses a piece; with `add` beside the others, with `upTo` everything between. */
  const choose = (id: string, how: 'only' | 'add' | 'upTo' = 'only') => {
    if (how === 'only' || !clip) return setSelectedId(id);
    if (how === 'add') return id === clip.id ? undefined : toggle(id);
    const ends = [clip.id, id].map((end) => segments.findIndex((each) => each.id === end));
    const [from, to] = [Math.min(...ends), Math.max(...ends)];
    if (from >= 0) setMore(withoutGaps(segments.slice(from, to + 1)));
  };
  const chooseAll = () => setMore(withoutGaps(segments));
  return { selectedId, setSelectedId, playIndex, index, segment, found, clip, chosen, choose, chooseAll };
}
