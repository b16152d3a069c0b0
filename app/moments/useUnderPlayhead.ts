import { useEffect, useMemo, useState } from 'react';
import { sceneCells, type SceneTag } from '#core/moments';
import type { WantedPiece } from '#core/reel';
import { overlap, type Range } from '#core/time';
import type { MomentsModel } from './model/useMomentsModel';
import { whatActs } from './whatActs';

/** Seconds by which a place may lie before a stretch and still be in it: places are counted in frames. */
const slack = 1e-6;
const within = ({ start, end }: Range, seconds: number, before = slack) => seconds >= start - before && seconds < end;

/** What lies under the playhead, and what keys act on. */
export function useUnderPlayhead(model: MomentsModel) {
  const { string, player, state, moments, footage, notes, silences, hits, marks, choice, nameOf } = model;
  const { chosen, why, askWhy } = choice;
  const placed = useMemo(
    () =>
      moments
        .flatMap((moment) => string.rangesOf(moment.media, moment).map((range) => ({ range, moment })))
        .sort((a, b) => a.range.start - b.range.start),
    [moments, string],
  );
  const cells = useMemo(() => sceneCells(footage, notes.scenes), [footage, notes.scenes]);
  const [tagFilter, setTagFilter] = useState<SceneTag | null>(null);
  const shownCells = tagFilter ? cells.filter((cell) => cell.tag === tagFilter) : cells;

  const place = string.locate(player.time);
  const here = <T extends Range>(list: readonly (T & { media: string })[], before?: number) =>
    (place && list.find((each) => each.media === place.id && within(each, place.seconds, before))) ?? null;
  const cell = here(shownCells);
  const hitHere = here(hits, 1e-3);
  const ownSilences = (place && silences.byMedia.get(place.id)) ?? [];
  const silenceHere = (place && ownSilences.find((each) => within(each, place.seconds, 0.02))) ?? null;

  const under = placed.find(({ range }) => within(range, player.time))?.range ?? null;
  const scene = state.view === 'scenes' && cell ? (string.rangesOf(cell.media, cell)[0] ?? null) : null;
  const acts = whatActs({ marked: marks.marked, scene, chosen: marks.selected, moment: under }, player.time);
  const acting = acts?.range ?? null;
  const actingPieces = acting ? string.pieces(acting) : [];
  const { id: firstId, start: firstStart, end: firstEnd } = actingPieces[0] ?? {};
  useEffect(() => {
    if (firstId !== undefined && chosen) askWhy(firstId, firstStart!, firstEnd!);
  }, [firstId, firstStart, firstEnd, chosen, askWhy]);

  const titleOf = (media: string, range: Range): string => {
    const isMostOf = (other: Range) => overlap(other, range) > (range.end - range.start) / 2;
    const moment = moments.find((each) => each.media === media && isMostOf(each));
    if (moment?.title) return moment.title;
    return why?.media === media && isMostOf(why) ? why.title : nameOf(media);
  };
  const wanted = (list: readonly (Range & { id: string })[]): WantedPiece[] =>
    list.map(({ id, start, end }) => {
      const name = titleOf(id, { start, end }).slice(0, 200) || 'Piece';
      return { media: id, start, end, name };
    });
  return {
    placed,
    cells,
    shownCells,
    tagFilter,
    setTagFilter,
    place,
    cell,
    hitHere,
    silenceHere,
    acting,
    actingAs: acts?.as ?? null,
    actingPieces,
    titleOf,
    wanted,
  };
}
