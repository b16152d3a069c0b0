import { Search } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { useFetcher, useNavigate } from 'react-router';
import type { FindableData } from '#usecases/findable';
import type { Item } from '#usecases/projects';
import { combinationOf, keysOf, shortcuts, shownKey } from '../keys';
import { Key } from './controls';
import { find, type Findable } from './findCommands';
import { placeNames } from './placeNames';
import { useLatest } from './useLatest';
import { liveCommands } from './useShortcuts';

interface CommandFieldProps {
  projectId: string;
  items: readonly Item[];
}

/** One field for everything that has a name: what can be done here, places, reels, shorts, files, people and markers. */
export function CommandField({ projectId, items }: CommandFieldProps) {
  const [open, setOpen] = useState(false);
  const { load, data } = useFetcher<FindableData>();
  const [commands, setCommands] = useState<Findable[]>([]);
  const show = () => {
    // As they are on the screen that is open now.
    setCommands(
      liveCommands().map(({ name, act }) => ({
        id: `command ${name}`,
        group: 'Commands' as const,
        name: shortcuts[name].does,
        hint: shownKey(name),
        act,
      })),
    );
    void load(`/projects/${projectId}/findable`);
    setOpen(true);
  };
  // Also while somebody writes.
  const latest = useLatest(show);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const combination = combinationOf(event);
      if (combination === null || !keysOf('find').includes(combination)) return;
      event.preventDefault();
      latest.current();
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [latest]);
  const all = useMemo(
    () => [...placesOf(projectId), ...namedOf(projectId, data), ...filesOf(projectId, items), ...commands],
    [projectId, data, items, commands],
  );
  return (
    <Dialog.Root open={open} onOpenChange={(next) => (next ? show() : setOpen(false))}>
      <Dialog.Trigger
        className="ml-auto flex shrink-0 items-center gap-2 px-2 text-sm text-muted hover:text-text"
        title={shortcuts.find.does}
      >
        <Search size={15} aria-hidden /> <span className="max-[960px]:sr-only">Find</span>
        <span className="text-xs max-[960px]:hidden">
          <Key command="find" />
        </span>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-12 z-50 w-[560px] max-w-[94vw] -translate-x-1/2 overflow-hidden rounded-md border border-line bg-raised shadow-2xl"
        >
          <Dialog.Title className="sr-only">{shortcuts.find.does}</Dialog.Title>
          <Chooser all={all} onDone={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const mostShown = 12;

function Chooser({ all, onDone }: { all: readonly Findable[]; onDone(): void }) {
  const navigate = useNavigate();
  const [query, setQuery] = useState('');
  const [at, setAt] = useState(0);
  const list = useRef<HTMLDivElement>(null);
  const listId = useId();
  const shown = find(all, query, mostShown);
  const chosen = Math.min(at, shown.length - 1);
  const take = ({ to, act }: Findable) => {
    onDone();
    if (to) void navigate(to);
    // After the field is gone and the screen has the focus again.
    else if (act) setTimeout(act);
  };
  const move = (by: number) => {
    const next = Math.max(0, Math.min(shown.length - 1, chosen + by));
    setAt(next);
    list.current?.children[next]?.scrollIntoView({ block: 'nearest' });
  };
  return (
    <>
      <input
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls={listId}
        aria-activedescendant={shown[chosen] ? `${listId}-${chosen}` : undefined}
        aria-label={shortcuts.find.does}
        placeholder={shortcuts.find.does}
        value={query}
        className="h-11 w-full bg-transparent px-4 text-base outline-none placeholder:text-muted"
        onChange={(event) => {
          setQuery(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') move(1);
          else if (event.key === 'ArrowUp') move(-1);
          else if (event.key === 'Enter' && shown[chosen]) take(shown[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <div
        ref={list}
        id={listId}
        role="listbox"
        aria-label="Found"
        className="max-h-[60vh] overflow-y-auto border-t border-line p-1"
      >
        {shown.map((each, index) => (
          <button
            type="button"
            tabIndex={-1}
            key={each.id}
            id={`${listId}-${index}`}
            role="option"
            aria-selected={index === chosen}
            className={`flex w-full cursor-pointer items-baseline text-left gap-3 rounded px-3 py-1.5 ${index === chosen ? 'bg-line' : ''}`}
            onPointerMove={() => index !== chosen && setAt(index)}
            onClick={() => take(each)}
          >
            <span className="truncate">{each.name}</span>
            {each.hint && <span className="tabular shrink-0 text-xs text-muted">{each.hint}</span>}
            <span className="ml-auto shrink-0 text-xs text-muted">{each.group}</span>
          </button>
        ))}
      </div>
      {shown.length === 0 && <p className="border-t border-line px-4 py-3 text-muted">Nothing is called “{query}”.</p>}
    </>
  );
}

/** Those within others have no word of their own at the top. */
const places = [...placeNames, ['footage/people', 'People'], ['variants', 'Variants']] as const;

const placesOf = (projectId: string): Findable[] => [
  ...places.map(([path, name]) => ({
    id: `place ${path}`,
    group: 'Places' as const,
    name,
    to: `/projects/${projectId}/${path}`,
  })),
  { id: 'place /', group: 'Places', name: 'All projects', to: '/' },
];

function namedOf(projectId: string, data: FindableData | undefined): Findable[] {
  if (!data) return [];
  const base = `/projects/${projectId}`;
  return [
    ...data.reels.map(({ id, name }) => ({ id, group: 'Reels' as const, name, to: `${base}/reels/${id}` })),
    ...data.shorts.map(({ id, set, name }) => ({ id, group: 'Shorts' as const, name, to: `${base}/shorts/${set}` })),
    ...data.people.map(({ id, name }) => ({
      id: `person ${id}`,
      group: 'People' as const,
      name,
      to: `${base}/moments?ask=${encodeURIComponent(name)}&panel=found`,
    })),
    ...data.markers.map(({ id, media, seconds, name, in: file }) => ({
      id,
      group: 'Markers' as const,
      name,
      hint: file,
      to: `${base}/moments?at=${media}~${seconds.toFixed(3)}&panel=markers`,
    })),
  ];
}

const filesOf = (projectId: string, items: readonly Item[]): Findable[] =>
  items.map(({ id, name, probe }) => ({
    id: `file ${id}`,
    group: 'Files' as const,
    name,
    to:
      probe?.kind === 'video' || probe?.kind === 'photo'
        ? `/projects/${projectId}/moments?at=${id}~0.000`
        : `/projects/${projectId}/footage/${id}`,
  }));
