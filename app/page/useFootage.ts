import { useMemo, useRef } from 'react';
import { photoFootage, type Footage } from '#core/moments';
import type { Item } from '../routes/project';
import type { Order } from './address';
import type { Defaults } from './useNotes';

/**
 * The footage that the page is about: that of a bin or of the project, in the chosen order, photos held for as long as
 * they stand, with the default in and out points of each file. A file that did not change stays the same object.
 */
export function useFootage(
  readings: readonly Footage[],
  items: readonly Item[],
  bin: string | null,
  order: Order,
  photoSeconds: number,
  defaultsOf: (id: string) => Defaults | null,
  scoreOf: (id: string) => number,
): Footage[] {
  const made = useRef(new Map<string, { key: string; from: Footage; footage: Footage }>());
  const scores = useRef(scoreOf);
  scores.current = scoreOf;
  return useMemo(() => {
    const byId = new Map(readings.map((each) => [each.id, each]));
    const shown = items.filter((item) => byId.has(item.id) && (!bin || item.binId === bin));
    const one = (item: Item): Footage => {
      const from = byId.get(item.id)!;
      const photo = item.probe?.kind === 'photo';
      const defaults = photo ? null : defaultsOf(item.id);
      const key = photo ? String(photoSeconds) : `${defaults?.in ?? ''}-${defaults?.out ?? ''}`;
      const known = made.current.get(item.id);
      if (known?.from === from && known.key === key) return known.footage;
      const footage = photo
        ? photoFootage(from, photoSeconds)
        : defaults
          ? { ...from, wanted: { start: defaults.in ?? 0, end: defaults.out ?? from.durationSeconds } }
          : from;
      made.current.set(item.id, { key, from, footage });
      return footage;
    };
    const length = (item: Item) => byId.get(item.id)!.durationSeconds;
    const sorts: Record<Order, (a: Item, b: Item) => number> = {
      order: (a, b) => a.position - b.position,
      name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
      date: (a, b) => +new Date(a.createdAt) - +new Date(b.createdAt),
      length: (a, b) => length(b) - length(a),
      score: (a, b) => scores.current(b.id) - scores.current(a.id),
    };
    return [...shown].sort(sorts[order]).map(one);
  }, [readings, items, bin, order, photoSeconds, defaultsOf]);
}
