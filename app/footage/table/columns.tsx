import {
  columnVisibilityFeature,
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  type Row,
} from '@tanstack/react-table';
import { formatMoment, formatSize } from '#core/sentences';
import { formatClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { Poster } from '../../drawing/Poster';
import { Format, Name, Read } from './cells';
import { columnValues, compareValues, greatestFirst, type SortColumn } from './sorting';
import { posterSizes, type ColumnId, type PosterSize } from './tableView';
import { tableWords } from './words';

export const features = tableFeatures({
  columnVisibilityFeature,
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
});
const helper = createColumnHelper<typeof features, Item>();

const compared = (a: Row<typeof features, Item>, b: Row<typeof features, Item>, id: string): number =>
  compareValues(a.getValue(id), b.getValue(id));

/** A column that can be sorted by. */
const valued = (id: SortColumn, cell: (item: Item) => React.ReactNode) =>
  helper.accessor(columnValues[id], {
    id,
    header: tableWords.columns[id],
    sortFn: compared,
    sortUndefined: 'last',
    sortDescFirst: greatestFirst.has(id),
    cell: ({ row }) => cell(row.original),
  });

const plain = (id: ColumnId, cell: (item: Item) => React.ReactNode) =>
  helper.display({ id, header: tableWords.columns[id], cell: ({ row }) => cell(row.original) });

export interface ColumnOptions {
  poster: PosterSize;
  /** Whether the items lie on one clock. */
  inStep: boolean;
  binName(id: string | null): string;
  renaming: string | null;
  /** @param stem null when nothing is to change */
  onRenamed(item: Item, stem: string | null): void;
}

export const columnsOf = ({ poster, inStep, binName, renaming, onRenamed }: ColumnOptions) =>
  helper.columns([
    plain('picture', ({ id, sheets, probe }) => (
      <Poster
        media={id}
        sheets={sheets}
        kind={probe?.kind ?? null}
        seconds={(probe?.durationSeconds ?? 0) * 0.35}
        width={posterSizes[poster][0]}
        height={posterSizes[poster][1]}
      />
    )),
    valued('name', (item) => (
      <Name item={item} inStep={inStep} isRenaming={renaming === item.id} onRenamed={(stem) => onRenamed(item, stem)} />
    )),
    valued('length', ({ probe, arrived }) => {
      const known = probe ?? arrived;
      return known && known.kind !== 'photo' && <span className="tabular">{formatClock(known.durationSeconds)}</span>;
    }),
    valued('format', (item) => <Format item={item} />),
    plain('bin', ({ binId }) => <span className="block truncate text-muted">{binName(binId)}</span>),
    valued('recorded', ({ probe }) => probe?.recordedAt && <Moment at={probe.recordedAt} />),
    valued('added', ({ createdAt }) => <Moment at={createdAt} />),
    valued('size', ({ size }) => <span className="tabular text-muted">{formatSize(size)}</span>),
    valued('faces', ({ summary }) => summary && <span className="tabular">{summary.faces || ''}</span>),
    valued(
      'talk',
      ({ summary }) =>
        summary && (
          <span className="tabular">{summary.speechShare ? `${Math.round(summary.speechShare * 100)} %` : ''}</span>
        ),
    ),
    valued(
      'shaky',
      ({ summary }) =>
        summary && (
          <span className="tabular">{summary.shakySeconds ? `${Math.round(summary.shakySeconds)} s` : ''}</span>
        ),
    ),
    plain('read', (item) => <Read item={item} />),
  ]);

const Moment = ({ at }: { at: Date | string }) => (
  <time dateTime={new Date(at).toISOString()} className="text-xs text-muted" suppressHydrationWarning>
    {formatMoment(at)}
  </time>
);
