import type { Item } from '#usecases/projects';
import { recordedTime } from '../ui/recordedTime';

export type SortKey = 'order' | 'name' | 'length' | 'added' | 'recorded';
const sorts: Record<SortKey, (a: Item, b: Item) => number> = {
  order: (a, b) => a.position - b.position,
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  length: (a, b) => (b.probe?.durationSeconds ?? 0) - (a.probe?.durationSeconds ?? 0),
  recorded: (a, b) => recordedTime(a) - recordedTime(b),
  added: (a, b) => +new Date(b.createdAt) - +new Date(a.createdAt),
};

/** @param given as it stands in the address; anything unknown is the order of arrival */
export const sortKey = (given: string | null): SortKey =>
  given !== null && Object.hasOwn(sorts, given) ? (given as SortKey) : 'order';

/** The items of a bin (null for all) in an order; the list given stays as it is. */
export const sortedItems = (items: readonly Item[], bin: string | null, sort: SortKey): Item[] =>
  items.filter((item) => bin === null || item.binId === bin).sort(sorts[sort]);
