import { useMemo, useRef, useState } from 'react';
import { withoutSilence, type Footage } from '#core/moments';
import type { WantedPiece } from '#core/reel';
import { formatClock, type Range } from '#core/time';
import type { MomentsData } from '#usecases/moments';
import { useHistory } from '../history/useHistory';
import { usePageActions } from './usePageActions';
import { useReelBelow, type NewReel } from './useReelBelow';
import { useSeparation } from './useSeparation';
import { useLineFiles } from './useLineFiles';
import { useMomentsModel } from './model/useMomentsModel';
import { useUnderPlayhead } from './useUnderPlayhead';

/** All that the Moments place shows and does. */
export function useMomentsDesk(projectId: string, readings: Footage[], data: MomentsData) {
  const model = useMomentsModel(projectId, readings, data);
  const { state, change, string, player, marks, notes, footage, hits, silences, itemOf, nameOf } = model;
  const under = useUnderPlayhead(model);
  const { place, acting, shownCells, placed } = under;
  const below = useReelBelow(projectId, data.reel, data.reels, model.items);
  const files = useLineFiles(model, below.used);
  const [writing, setWriting] = useState<string | null>(null);
  const askField = useRef<HTMLInputElement>(null);
  const actions = usePageActions({
    state,
    change,
    string,
    player,
    marks,
    notes,
    footage,
    hits,
    place,
    acting,
    placed,
    nameOf,
    cells: shownCells,
    cell: under.cell,
    silences: silences.byMedia,
    silenceHere: under.silenceHere,
    actingPieces: under.actingPieces,
    lengthOf: (id) => itemOf(id)?.probe?.durationSeconds ?? 0,
    onPage: () => below.setFocus('page'),
    onWrite: setWriting,
  });

  const bin = data.bins.find((each) => each.id === state.bin) ?? null;
  const reels = useNewReels({ model, under, below });
  const separation = useSeparation({
    model,
    below,
    name: bin?.name ?? model.project.name,
    inStep: bin?.synced ?? false,
    reels: data.reels,
  });
  const setWater = (level: number) => notes.setPick({ water: Math.max(0, Math.min(100, level)) }, 'water');
  const loop = () => {
    if (player.loop || !acting) return player.setLoop(null);
    player.setLoop(acting);
    player.seek(acting.start);
    if (!player.playing) player.play();
  };
  /** The take that follows the one here is kept by hand in its place; after the last comes the first. */
  const takeOther = () => {
    const { why } = model.choice;
    const here = under.actingPieces[0];
    if (!why || why.doubles.length === 0 || here?.id !== why.media) return;
    const place = (take: { media: string; start: number }) => string.timeOf(take.media, take.start) ?? Infinity;
    const others = [...why.doubles].sort((a, b) => place(a) - place(b));
    const next = others.find((take) => place(take) > place(why)) ?? others[0]!;
    notes.takeInstead(why.verdict === 'keep' ? here : null, { id: next.media, start: next.start, end: next.end });
    takeHit(next);
  };
  const takeHit = (hit: Range & { media: string }) => {
    change({ view: 'page' });
    actions.goTo(hit.media, hit.start);
    const range = string.rangesOf(hit.media, hit)[0];
    if (range) marks.setSelected(range);
  };
  const history = useHistory(projectId, below.hasKeys ? below.desk.live.participant : null);
  const edges = useMemo(
    () => (actions.trimming || state.view !== 'page' ? [] : placed.flatMap(({ range }) => [range.start, range.end])),
    [placed, actions.trimming, state.view],
  );
  const wells = useMemo(
    () =>
      notes.decisions.filter(({ verdict, media }) => verdict === 'drop' && footage.some((each) => each.id === media)),
    [notes.decisions, footage],
  );
  return {
    ...model,
    ...under,
    ...reels,
    separation,
    model,
    below,
    files,
    actions,
    data,
    bin,
    edges,
    wells,
    askField,
    writing,
    setWriting,
    setWater,
    loop,
    takeHit,
    takeOther,
    undo: history.undo,
    redo: history.redo,
    silenceList: useMemo(() => [...silences.byMedia.values()].flat(), [silences.byMedia]),
  };
}
export type MomentsDesk = ReturnType<typeof useMomentsDesk>;

/** New reels out of what is on show: the chosen moments, what is not silent, the scenes. */
function useNewReels({
  model,
  under,
  below,
}: {
  model: ReturnType<typeof useMomentsModel>;
  under: ReturnType<typeof useUnderPlayhead>;
  below: ReturnType<typeof useReelBelow>;
}) {
  const { state, footage, silences, project, chosen, moments, nameOf } = model;
  const { shownCells, tagFilter, titleOf } = under;

  const withoutSilences = (): NewReel => ({
    name: `${project.name}, without silence`,
    pieces: footage.flatMap((each) =>
      withoutSilence(each.durationSeconds, silences.byMedia.get(each.id) ?? []).map((range): WantedPiece => ({
        media: each.id,
        ...range,
        name: nameOf(each.id),
      })),
    ),
  });
  const ofScenes = (): NewReel => ({
    name: `${project.name}, ${tagFilter ? `scenes tagged ${tagFilter}` : 'scenes'}`,
    pieces: shownCells.map(({ media, start, end }) => ({ media, start, end, name: titleOf(media, { start, end }) })),
  });
  const ofMoments = (): NewReel | null =>
    chosen && moments.length > 0
      ? {
          name: `${project.name}, ${formatClock(chosen.seconds)}`,
          movePhotos: true,
          pieces: chosen.story.flatMap(({ moment, because }) => {
            const { media, start, end, title, reason } = chosen.moments[moment]!;
            return { media, start, end, name: title, reason: because ? `${reason}; ${because}` : reason };
          }),
        }
      : null;
  const makers = { page: ofMoments, scenes: ofScenes, silence: withoutSilences };

  const makeReel = () => {
    const reel = below.making ? null : makers[state.view]();
    if (reel) below.make([reel], true);
  };
  return { makeReel };
}
