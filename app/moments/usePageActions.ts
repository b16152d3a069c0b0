import { useMemo } from 'react';
import { toast } from 'sonner';
import { formatClock, overlap, type Range, type StringOut } from '#core/time';
import { newId } from '../newId';
import type { FootagePlayer } from '../player/useFootagePlayer';
import type { PageContext } from './pageContext';
import { useMomentTrim } from './useMomentTrim';
import type { Notes } from './model/useNotes';

/** What keys and the pointer do on the page: go, mark, decide, trim, drop markers. */
export function usePageActions({
  state,
  change,
  string,
  player,
  marks,
  notes,
  footage,
  placed,
  cells,
  cell,
  silences,
  silenceHere,
  hits,
  place,
  acting,
  actingPieces,
  nameOf,
  lengthOf,
  onPage,
  onWrite,
}: PageContext) {
  const { marked, setMarked, setSelected } = marks;
  const { markers } = notes;
  const { trimming, trim } = useMomentTrim({ string, player, marks, notes, footage, placed });
  const fileOf = (id: string) => footage.find((each) => each.id === id) ?? null;

  const point = (time: number) => {
    onPage();
    player.seek(time);
    setMarked(null);
    setSelected(placed.find(({ range }) => time >= range.start && time < range.end)?.range ?? null);
  };
  const goTo = (media: string, seconds: number) => {
    const time = string.timeOf(media, seconds);
    if (time !== null) point(time);
  };
  const decideHere = (verdict: 'keep' | 'drop') => {
    if (actingPieces.length === 0) return;
    notes.decide(actingPieces, verdict);
    setSelected(acting);
    setMarked(null);
  };
  const keepSilence = () => {
    if (!place || !silenceHere) return;
    const others = notes.silence.kept.filter((kept) => kept.media !== place.id || overlap(kept, silenceHere) === 0);
    notes.setSilence({
      ...notes.silence,
      kept: silenceHere.kept
        ? others
        : [...others, { media: place.id, start: silenceHere.start, end: silenceHere.end }],
    });
  };
  /** Stretches that [ and ] step through: scenes, silences, what was found, or moments. */
  const stops = (): Range[] => {
    if (state.view === 'silence')
      return footage.flatMap((each) =>
        (silences.get(each.id) ?? []).flatMap((silence) => string.rangesOf(each.id, silence)),
      );
    if (state.panel === 'found' && hits.length)
      return hits.flatMap((hit) => string.rangesOf(hit.media, hit)).sort((a, b) => a.start - b.start);
    return placed.map(({ range }) => range);
  };
  const jump = (direction: 1 | -1) => {
    if (state.view === 'scenes') {
      const now = cell ? cells.indexOf(cell) : -1;
      const next = cells[Math.max(0, Math.min(cells.length - 1, now + direction))];
      return next && goTo(next.media, next.start);
    }
    const all = stops();
    const next =
      direction > 0
        ? all.find((range) => range.start > player.time + 0.05)
        : all.findLast((range) => range.start < player.time - 0.05);
    if (!next) return;
    player.seek(next.start);
    setMarked(null);
    setSelected(next);
  };
  const markShot = () => {
    const file = place && fileOf(place.id);
    if (!place || !file) return;
    const scene = file.runs.find(
      (run) => run.kind === 'scene' && place.seconds >= run.start && place.seconds < run.end,
    ) ?? { start: 0, end: file.durationSeconds };
    const held = {
      start: Math.max(scene.start, file.wanted?.start ?? 0),
      end: Math.min(scene.end, file.wanted?.end ?? Infinity),
    };
    setMarked(string.rangesOf(place.id, held.end > held.start ? held : scene)[0] ?? null);
  };
  const mark = (edge: 'start' | 'end') => {
    if (!place) return;
    const file = string.rangeAt(place.index);
    const other = marked && overlap(marked, file) > 0 ? marked : null;
    const range =
      edge === 'start'
        ? { start: player.time, end: other && other.end > player.time ? other.end : file.end }
        : { start: other && other.start < player.time ? other.start : file.start, end: player.time };
    if (range.end - range.start > 0.03) setMarked(range);
  };
  const setDefaults = () => {
    if (!place) return;
    const piece = marked && string.pieces(marked).find((each) => each.id === place.id);
    const length = lengthOf(place.id);
    notes.setDefaults({
      id: place.id,
      in: piece && piece.start > 0.02 ? piece.start : null,
      out: piece && piece.end < length - 0.02 ? piece.end : null,
    });
    toast(
      piece
        ? `${nameOf(place.id)} counts from ${formatClock(piece.start, true)} to ${formatClock(piece.end, true)}.`
        : `${nameOf(place.id)} counts whole again.`,
    );
    setMarked(null);
  };
  const dropMarker = (write: boolean) => {
    if (!place) return;
    const id = newId();
    notes.setMarker({ id, media: place.id, seconds: place.seconds, note: '', kind: 'note' });
    if (!write) return;
    player.pause();
    change({ panel: 'markers' });
    onWrite(id);
  };
  const { markerTimes, jumpMarker } = useMarkerSteps(markers, string, player, point);

  return {
    point,
    goTo,
    decideHere,
    keepSilence,
    jump,
    markShot,
    mark,
    trim,
    setDefaults,
    dropMarker,
    jumpMarker,
    markerTimes,
    trimming,
  };
}

/** Where markers stand in the string, in its order, and steps from one to the next. */
function useMarkerSteps(
  markers: Notes['markers'],
  string: StringOut,
  player: FootagePlayer,
  point: (time: number) => void,
) {
  const markerTimes = useMemo(
    () =>
      markers
        .flatMap((marker) => {
          const time = string.timeOf(marker.media, marker.seconds);
          return time === null ? [] : [{ marker, time }];
        })
        .sort((a, b) => a.time - b.time),
    [markers, string],
  );
  const jumpMarker = (direction: 1 | -1) => {
    const next =
      direction > 0
        ? markerTimes.find((each) => each.time > player.time + 0.02)
        : markerTimes.findLast((each) => each.time < player.time - 0.02);
    if (next) point(next.time);
  };
  return { markerTimes, jumpMarker };
}
