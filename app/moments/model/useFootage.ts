import { useEffect, useMemo, useRef, useState } from 'react';
import { photoFootage, type Footage, type Moment } from '#core/moments';
import type { Item } from '#usecases/projects';
import { recordedTime } from '../../ui/recordedTime';
import type { PageOrder } from './address';
import type { Defaults } from './useNotes';

/**
 * The footage that the page is about: that of a bin or of the project, in the chosen order, photos held for as long as
 * they stand, with the default in and out points of each file. A file that did not change stays the same object.
 */
export function useFootage(
  readings: readonly Footage[],
  items: readonly Item[],
  bin: string | null,
  order: PageOrder,
  photoSeconds: number,
  defaultsOf: (id: string) => Defaults | null,
  scores: ReadonlyMap<string, number>,
): Footage[] {
  const [arranged] = useState(() => new WeakMap<Footage, { key: string; footage: Footage }>());
  return useMemo(() => {
    const byId = new Map(readings.map((each) => [each.id, each]));
    const shown = items.filter((item) => byId.has(item.id) && (!bin || item.binId === bin));
    const one = (item: Item): Footage => {
      const from = byId.get(item.id)!;
      const photo = item.probe?.kind === 'photo';
      const defaults = photo ? null : defaultsOf(item.id);
      const key = photo ? String(photoSeconds) : `${defaults?.in ?? ''}-${defaults?.out ?? ''}`;
      const known = arranged.get(from);
      if (known?.key === key) return known.footage;
      const footage = photo
        ? photoFootage(from, photoSeconds)
        : defaults
          ? { ...from, wanted: { start: defaults.in ?? 0, end: defaults.out ?? from.durationSeconds } }
          : from;
      arranged.set(from, { key, footage });
      return footage;
    };
    const length = (item: Item) => byId.get(item.id)!.durationSeconds;
    const sorts: Record<PageOrder, (a: Item, b: Item) => number> = {
      order: (a, b) => a.position - b.position,
      name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
      date: (a, b) => recordedTime(a) - recordedTime(b),
      length: (a, b) => length(b) - length(a),
      score: (a, b) => (scores.get(b.id) ?? 0) - (scores.get(a.id) ?? 0),
    };
    return [...shown].sort(sorts[order]).map(one);
  }, [arranged, readings, items, bin, order, photoSeconds, defaultsOf, scores]);
}

/**
 * The best score of each file, for the order by score. Taken when that order is chosen, or other footage is there, and
 * left alone while the mix is changed: files do not run about under a slider.
 */
export function useScoresForOrder(
  order: PageOrder,
  readings: readonly Footage[],
  moments: readonly Moment[] | null,
  onScores: (best: ReadonlyMap<string, number>) => void,
) {
  const takenFor = useRef<readonly Footage[] | null>(null);
  useEffect(() => {
    if (order !== 'score') takenFor.current = null;
    else if (moments && takenFor.current !== readings) {
      takenFor.current = readings;
      const best = new Map<string, number>();
      for (const { media, score } of moments) best.set(media, Math.max(best.get(media) ?? 0, score));
      onScores(best);
    }
  }, [order, readings, moments, onScores]);
}
