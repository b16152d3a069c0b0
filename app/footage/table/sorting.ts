import type { Item } from '#usecases/projects';
import { recordedTime } from '../../ui/recordedTime';

/** What stands in a column, to be sorted by; unknown ones lie at the end, whichever way the others go. */
export const columnValues = {
  name: (item: Item) => item.name,
  length: ({ probe, arrived }: Item) => known((probe ?? arrived)?.durationSeconds),
  format: ({ probe, arrived }: Item) => {
    const of = probe ?? arrived;
    return of ? `${of.kind} ${(of.width ?? 0) * (of.height ?? 0)}` : undefined;
  },
  recorded: recordedTime,
  added: ({ createdAt }: Item) => +new Date(createdAt),
  size: ({ size }: Item) => size,
  faces: ({ summary }: Item) => known(summary?.faces),
  talk: ({ summary }: Item) => known(summary?.speechShare),
  shaky: ({ summary }: Item) => known(summary?.shakySeconds),
} as const;
const known = (value: number | undefined | null) => value ?? undefined;

export type SortColumn = keyof typeof columnValues;
/** Null is the order of arrival. */
export type TableSort = { column: SortColumn; desc: boolean } | null;

/** Columns whose greatest is asked for first: the longest, the newest, what has most of it. */
export const greatestFirst: ReadonlySet<SortColumn> = new Set(['length', 'added', 'size', 'faces', 'talk', 'shaky']);

/** @param given as it stands in the address, `-` before the greatest first; anything unknown is the order of arrival */
export function sortOf(given: string | null): TableSort {
  const [, minus, column] = /^(-?)([a-z]+)$/.exec(given ?? '') ?? [];
  return column && Object.hasOwn(columnValues, column) ? { column: column as SortColumn, desc: minus === '-' } : null;
}

/** As it stands in the address; empty for the order of arrival. */
export const sortText = (sort: TableSort): string => (sort ? `${sort.desc ? '-' : ''}${sort.column}` : '');

const byName = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });
/** The less first; texts with the numbers in them counted. */
export const compareValues = (a: string | number, b: string | number): number =>
  typeof a === 'number' && typeof b === 'number' ? a - b : byName.compare(String(a), String(b));
