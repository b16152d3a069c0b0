import { useMemo } from 'react';
import { withoutSilence, type Silence } from '#core/moments';
import type { Range } from '#core/time';
import type { LineFile, LitMoment } from '../drawing/drawLine';
import type { MomentsModel } from './model/useMomentsModel';

const noShares = { people: 0, talk: 0, action: 0, camera: 0, sound: 0, picture: 0 };

/** In the silence view the light is on what stays. */
function whatStays(media: string, seconds: number, silences: readonly Silence[]): LitMoment[] {
  const lit = (range: Range, kept: LitMoment['kept']): LitMoment => ({
    media,
    start: range.start,
    end: range.end,
    score: 0,
    shares: noShares,
    kept,
  });
  const sound = withoutSilence(
    seconds,
    silences.map((silence) => ({ ...silence, kept: false })),
  );
  return [
    ...sound.map((range) => lit(range, 'score')),
    ...silences.filter((silence) => silence.kept).map((silence) => lit(silence, 'hand')),
  ].sort((a, b) => a.start - b.start);
}

/** What the lines of the page show of each file, in the order of the string. @param used what stands in the open reel */
export function useLineFiles(model: MomentsModel, used: ReadonlyMap<string, Range[]>): LineFile[] {
  const { footage, itemOf, chosen, moments, hits, string, silences } = model;
  const { markers } = model.notes;
  const showsSilence = model.state.view === 'silence';
  const byId = useMemo(() => {
    const of = <T extends { media: string }>(list: readonly T[], id: string) =>
      list.filter((each) => each.media === id);
    const lineOf = (each: (typeof footage)[number]): LineFile => {
      const item = itemOf(each.id);
      return {
        id: each.id,
        name: item?.name ?? '',
        footage: each,
        sheets: item?.sheets ?? null,
        moments: showsSilence
          ? whatStays(each.id, each.durationSeconds, silences.byMedia.get(each.id) ?? [])
          : of(moments, each.id),
        flaws: showsSilence ? [] : (chosen?.flaws[each.id] ?? []),
        used: used.get(each.id) ?? [],
        found: of(hits, each.id),
        markers: of(markers, each.id),
      };
    };
    return new Map(footage.map((each) => [each.id, lineOf(each)]));
  }, [footage, itemOf, chosen, moments, used, hits, markers, showsSilence, silences.byMedia]);
  return useMemo(() => string.items.map((item) => byId.get(item.id)!), [string, byId]);
}
