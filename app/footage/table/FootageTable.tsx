import { useTable, type Cell, type Header, type SortingState } from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useMemo, useRef, type ReactNode } from 'react';
import type { Item } from '#usecases/projects';
import { ContextMenu, type MenuEntry } from '../../ui/ContextMenu';
import { useVirtualList } from '../../ui/useVirtualList';
import { choose, chooseAll, pressOf, type RowChoice } from './choosing';
import { columnsOf, features } from './columns';
import { sortOf, sortText, type TableSort } from './sorting';
import { columnIds, columnWidths, leastWidths, posterSizes, type ColumnId, type TableView } from './tableView';
import { tableWords } from './words';

export interface FootageTableProps {
  /** Those that are shown, in the order of their arrival. */
  items: readonly Item[];
  sort: TableSort;
  onSort(sort: string): void;
  view: TableView;
  choice: RowChoice;
  onChoice(next: RowChoice): void;
  /** Whether the items lie on one clock. */
  inStep: boolean;
  binName(id: string | null): string;
  renaming: string | null;
  onRenamed(item: Item, stem: string | null): void;
  /** What can be done with the chosen items, one of which was pressed. */
  menuOf(pressed: Item, ids: ReadonlySet<string>): readonly MenuEntry[];
  /** Hears the order on the screen, for keys that go from row to row. */
  orderRef: React.RefObject<readonly string[]>;
}

const headHeight = 33;
/** A table of so many rows is there whole. */
const fewRows = 60;
/** Width of the boxes that choose, in pixels. */
const choosing = 44;

/** Footage as a table of any length: only the rows on screen, and some around them, are there. */
export function FootageTable({
  items,
  sort,
  onSort,
  view,
  choice,
  onChoice,
  inStep,
  binName,
  renaming,
  onRenamed,
  menuOf,
  orderRef,
}: FootageTableProps) {
  const columns = useMemo(
    () => columnsOf({ poster: view.poster, inStep, binName, renaming, onRenamed }),
    [view.poster, inStep, binName, renaming, onRenamed],
  );
  const sorting: SortingState = useMemo(() => (sort ? [{ id: sort.column, desc: sort.desc }] : []), [sort]);
  const hidden = useMemo(() => Object.fromEntries(view.hidden.map((id) => [id, false])), [view.hidden]);
  const table = useTable({
    features,
    columns,
    data: items,
    getRowId: (item: Item) => item.id,
    enableMultiSort: false,
    state: { sorting, columnVisibility: hidden },
    onSortingChange: (change) => {
      const [next] = typeof change === 'function' ? change(sorting) : change;
      onSort(next ? sortText({ column: sortOf(next.id)!.column, desc: next.desc }) : '');
    },
  });
  const { rows } = table.getRowModel();
  const order = useMemo(() => rows.map(({ id }) => id), [rows]);
  orderRef.current = order;
  const body = useRef<HTMLTableSectionElement>(null);
  const at = choice.at === null ? -1 : order.indexOf(choice.at);
  const { virtual, above } = useVirtualList(body, {
    count: rows.length,
    keyOf: (index) => order[index]!,
    height: posterSizes[view.poster][1] + 13,
    current: at,
    held: renaming === null ? at : order.indexOf(renaming),
    covered: headHeight,
    whole: fewRows,
  });
  const seen = virtual.getVirtualItems();
  const shownColumns = columnIds.filter((id) => !view.hidden.includes(id));
  const chosenHere = order.reduce((sum, id) => sum + Number(choice.ids.has(id)), 0);

  const entriesAt = (target: Element): readonly MenuEntry[] => {
    const id = target.closest('tr')?.dataset.item;
    const pressed = items.find((item) => item.id === id);
    if (!pressed) return [];
    // As everywhere: what is pressed is meant, and all that is chosen where it is chosen.
    const next = choice.ids.has(pressed.id) ? choice : choose(choice, order, pressed.id, 'only');
    if (next !== choice) onChoice(next);
    return menuOf(pressed, next.ids);
  };
  return (
    <ContextMenu label={tableWords.columns.name} entriesAt={entriesAt}>
      <table
        className="w-full table-fixed border-collapse"
        style={{ minWidth: widthOf(view) }}
        aria-rowcount={rows.length + 1}
      >
        <colgroup>
          <col style={{ width: choosing }} />
          {shownColumns.map((id) => (
            <col key={id} style={{ width: id === 'picture' ? posterSizes[view.poster][0] + 14 : columnWidths[id] }} />
          ))}
        </colgroup>
        <Head
          headers={table.getHeaderGroups()[0]!.headers}
          chosen={chosenHere}
          count={rows.length}
          onAll={(all) => onChoice(all ? chooseAll(choice, order) : { ...choice, ids: new Set() })}
        />
        <tbody ref={body}>
          <Space height={seen.length ? seen[0]!.start - above : 0} />
          {seen.map(({ index }) => {
            const row = rows[index]!;
            const item = row.original;
            const isChosen = choice.ids.has(item.id);
            return (
              <tr
                key={item.id}
                ref={virtual.measureElement}
                data-index={index}
                data-item={item.id}
                aria-rowindex={index + 2}
                aria-selected={isChosen}
                className={`border-b border-line/60 hover:bg-raised ${isChosen ? 'bg-raised' : ''} ${choice.at === item.id ? 'shadow-[inset_2px_0_0_var(--color-muted)]' : ''}`}
                onClick={(event) => {
                  if ((event.target as Element).closest('a, button, input, label, summary')) return;
                  onChoice(choose(choice, order, item.id, pressOf(event)));
                }}
                // Shift marks rows, not the text in them.
                onMouseDown={(event) => event.shiftKey && event.preventDefault()}
              >
                <td className="pl-4">
                  <label className="flex min-h-9 items-center">
                    <input
                      type="checkbox"
                      aria-label={`Choose ${item.name}`}
                      className="block h-4 w-4 accent-muted"
                      checked={isChosen}
                      onChange={(event) =>
                        onChoice(
                          choose(
                            choice,
                            order,
                            item.id,
                            (event.nativeEvent as MouseEvent).shiftKey ? 'upTo' : 'toggle',
                          ),
                        )
                      }
                    />
                  </label>
                </td>
                {row.getVisibleCells().map((cell) => (
                  <td key={cell.id} className={cell.column.id === 'picture' ? 'py-1.5' : 'py-1 pr-4'}>
                    {shownIn(cell)}
                  </td>
                ))}
              </tr>
            );
          })}
          <Space height={seen.length ? virtual.getTotalSize() - (seen.at(-1)!.end - above) : 0} />
        </tbody>
      </table>
    </ContextMenu>
  );
}

interface HeadProps {
  headers: readonly Header<typeof features, Item, unknown>[];
  /** How many of the rows are chosen. */
  chosen: number;
  count: number;
  onAll(all: boolean): void;
}

/**
 * What a cell shows, as an element. Taken for a component, it would be another one whenever the columns are made anew, and what
 * was said in it (an answer, a name that is being typed) would go.
 */
const shownIn = (cell: Cell<typeof features, Item, unknown>): ReactNode => {
  const show = cell.column.columnDef.cell;
  return typeof show === 'function' ? (show(cell.getContext()) as ReactNode) : show;
};

/** Names of the columns; a press sorts by one. */
const Head = ({ headers, chosen, count, onAll }: HeadProps) => (
  <thead className="sticky top-0 z-10 bg-ground text-left text-xs text-muted">
    <tr className="h-8 border-b border-line [&>th]:font-normal" aria-rowindex={1}>
      <th className="pl-4">
        <label className="flex items-center">
          <input
            type="checkbox"
            aria-label={tableWords.chooseAll}
            className="block h-4 w-4 accent-muted"
            checked={count > 0 && chosen === count}
            ref={(box) => {
              if (box) box.indeterminate = chosen > 0 && chosen < count;
            }}
            onChange={(event) => onAll(event.target.checked)}
          />
        </label>
      </th>
      {headers.map(({ id, column }) => {
        const way = column.getCanSort() ? column.getIsSorted() : false;
        const label = tableWords.columns[id as ColumnId];
        return (
          <th key={id} aria-sort={way ? (way === 'asc' ? 'ascending' : 'descending') : undefined}>
            {id === 'picture' ? (
              <span className="sr-only">{label}</span>
            ) : column.getCanSort() ? (
              <button
                type="button"
                title={tableWords.sortBy(label)}
                className={`inline-flex items-center gap-1 hover:text-text ${way ? 'text-text' : ''}`}
                onClick={column.getToggleSortingHandler()}
              >
                {label}
                {way === 'asc' && <ArrowUp size={12} aria-hidden />}
                {way === 'desc' && <ArrowDown size={12} aria-hidden />}
              </button>
            ) : (
              label
            )}
          </th>
        );
      })}
    </tr>
  </thead>
);

/** Stands for the rows that are not there. */
const Space = ({ height }: { height: number }) =>
  height > 0 && (
    <tr aria-hidden style={{ height }}>
      <td />
    </tr>
  );

/** Narrower than that, the table moves sideways. */
const widthOf = ({ hidden, poster }: TableView): number =>
  columnIds
    .filter((id) => !hidden.includes(id))
    .reduce(
      (sum, id) =>
        sum +
        (id === 'picture'
          ? posterSizes[poster][0] + 14
          : (columnWidths[id] ?? leastWidths[id as keyof typeof leastWidths])),
      choosing,
    );
