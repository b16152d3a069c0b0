import { useCallback, useMemo, useRef, useState } from 'react';
import { useNavigate, useSubmit } from 'react-router';
import { toast } from 'sonner';
import type { Item } from '#usecases/projects';
import type { AskedOfChosen } from '../FootageBar';
import type { MenuEntry } from '../../ui/ContextMenu';
import { useKept } from '../../ui/useKept';
import { useShortcuts } from '../../ui/useShortcuts';
import { chooseAll, nothingChosen, step, stillThere } from './choosing';
import { showingOf, shownItems } from './showing';
import { sortOf } from './sorting';
import { readView, type TableView } from './tableView';
import { tableWords } from './words';

interface FootageTableState {
  projectId: string;
  items: readonly Item[];
  bins: readonly { id: string; name: string; synced: boolean }[];
  search: URLSearchParams;
  /** What is shown and how it is sorted stands in the address. */
  onSearch(name: string, value: string | null): void;
  /** Does something with what is chosen. */
  onMenu(intent: string, more?: Record<string, string>): void;
  onAsk(what: AskedOfChosen): void;
}

/** What the table shows, what is chosen in it, and what keys and menus do there. */
export function useFootageTable({ projectId, items, bins, search, onSearch, onMenu, onAsk }: FootageTableState) {
  const bin = search.get('bin');
  const show = showingOf(search.get('show'));
  const text = search.get('find') ?? '';
  const sort = useMemo(() => sortOf(search.get('sort')), [search]);
  const shown = useMemo(() => shownItems(items, bin, show, text), [items, bin, show, text]);
  const [kept, keep] = useKept('bright-reel footage table');
  const view = useMemo(() => readView(kept), [kept]);
  const [given, setChoice] = useState(nothingChosen);
  // Only what is seen is chosen: nothing is done to rows that a filter hides.
  const choice = useMemo(
    () =>
      stillThere(
        given,
        shown.map(({ id }) => id),
      ),
    [given, shown],
  );
  const [renaming, setRenaming] = useState<string | null>(null);
  const order = useRef<readonly string[]>([]);
  const navigate = useNavigate();
  const submit = useSubmit();
  const clear = useCallback(() => setChoice(nothingChosen), []);

  const rename = useCallback(
    (id: string, name: string) => void submit({ intent: 'rename', ids: id, name }, { method: 'post', navigate: false }),
    [submit],
  );
  const onRenamed = useCallback(
    (item: Item, stem: string | null) => {
      setRenaming(null);
      if (stem === null) return;
      rename(item.id, stem);
      toast(tableWords.renamed(stem), {
        duration: 10_000,
        action: { label: tableWords.undo, onClick: () => rename(item.id, item.name.replace(/(?<=.)\.[^.]*$/, '')) },
      });
    },
    [rename],
  );
  const binName = useCallback((id: string | null) => bins.find((each) => each.id === id)?.name ?? '', [bins]);

  const one = choice.at !== null && shown.some(({ id }) => id === choice.at) ? choice.at : null;
  const go = (by: 1 | -1, how: 'only' | 'upTo') => setChoice(step(choice, order.current, by, how));
  useShortcuts({
    rowUp: () => go(-1, 'only'),
    rowDown: () => go(1, 'only'),
    rowsUp: () => go(-1, 'upTo'),
    rowsDown: () => go(1, 'upTo'),
    chooseRows: () => setChoice(chooseAll(choice, order.current)),
    clearRows: choice.ids.size > 0 ? clear : undefined,
    openRow: one === null ? undefined : () => void navigate(one),
    renameRow: one === null ? undefined : () => setRenaming(one),
  });

  const menuOf = ({ id, probe }: Item, ids: ReadonlySet<string>): readonly MenuEntry[] => [
    { command: 'openRow', label: tableWords.menu.report },
    {
      label: tableWords.menu.moments,
      isOff: probe?.kind !== 'video' && probe?.kind !== 'photo',
      act: () => void navigate(`/projects/${projectId}/moments?at=${id}~0.000`),
    },
    'line',
    ...(ids.size === 1 ? [{ command: 'renameRow', label: tableWords.rename } as const] : []),
    {
      label: tableWords.menu.move,
      entries: [{ id: '', name: tableWords.menu.noBin }, ...bins].map((each) => ({
        label: each.name,
        act: () => onMenu('move', { binId: each.id }),
      })),
    },
    { label: tableWords.menu.read, act: () => onMenu('read') },
    { label: tableWords.menu.range, act: () => onAsk('range') },
    { label: tableWords.menu.look, act: () => onAsk('look') },
    { label: tableWords.menu.takeOut, act: () => onAsk('out') },
    'line',
    { command: 'chooseRows' },
    { command: 'clearRows' },
  ];

  return {
    shown,
    chosen: choice.ids,
    clear,
    isFiltered: items.length > 0 && (show !== 'all' || text !== ''),
    showAll: () => {
      onSearch('show', null);
      onSearch('find', null);
    },
    tools: {
      text,
      onText: (next: string) => onSearch('find', next),
      show,
      onShow: (next: string) => onSearch('show', next === 'all' ? null : next),
      view,
      onView: (next: TableView) => keep(JSON.stringify(next)),
    },
    props: {
      items: shown,
      sort,
      onSort: (next: string) => onSearch('sort', next),
      view,
      choice,
      onChoice: setChoice,
      inStep: Boolean(bins.find(({ id }) => id === bin)?.synced),
      binName,
      renaming,
      onRenamed,
      menuOf,
      orderRef: order,
    },
  };
}
