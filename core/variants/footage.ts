import { sourcesFrom, type ProbedItem, type Reel } from '#core/reel';
import type { PartFootage } from './parts';

/** An item of a project as far as variants are concerned. */
export interface VariantItem extends ProbedItem {
  binId: string | null;
  probe: (ProbedItem['probe'] & { width: number; height: number }) | null;
  /** What of it is wanted at all, in seconds; null for its own ends. */
  defaultIn: number | null;
  defaultOut: number | null;
}

/** What parts of variants are told from. @param items in the order of their bins */
export function partFootage(
  items: readonly VariantItem[],
  bins: readonly { id: string; name: string }[],
  reels: ReadonlyMap<string, Reel>,
  photoSeconds: number,
): PartFootage {
  const byId = new Map(items.map((item) => [item.id, item]));
  return {
    reels,
    bins: new Map(
      bins.map(({ id, name }) => [
        id,
        { name, media: items.flatMap((item) => (item.binId === id && item.probe ? [item.id] : [])) },
      ]),
    ),
    sources: sourcesFrom(items),
    shapeOf: (media) => {
      const probe = byId.get(media)?.probe;
      if (!probe) return null;
      // The size of a photo says nothing about films.
      const isPhoto = probe.kind === 'photo';
      return { rate: probe.rate ?? null, width: isPhoto ? 0 : probe.width, height: probe.height };
    },
    wantedOf: (media) => {
      const item = byId.get(media);
      if (!item?.probe || (item.defaultIn === null && item.defaultOut === null)) return null;
      return { start: item.defaultIn ?? 0, end: item.defaultOut ?? item.probe.durationSeconds };
    },
    photoSeconds,
  };
}
