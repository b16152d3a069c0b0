import { Ellipsis, Search } from 'lucide-react';
import { DropdownMenu, ToggleGroup } from 'radix-ui';
import { useRef, useState } from 'react';
import { Link, useFetcher } from 'react-router';
import { toast } from 'sonner';
import { formatMoment } from '#core/sentences';
import { formatClock } from '#core/time';
import type { HomeProject } from '#usecases/projects';
import { Poster } from '../drawing/Poster';
import { ContextMenu } from '../ui/ContextMenu';
import { inputLook } from '../ui/controls';
import {
  contentWords,
  shelfOf,
  shelves,
  shownProjects,
  sorts,
  stateWords,
  type HomeShelf,
  type Sort,
} from './homeList';
import { homeWords } from './words';

/** Every project: what is in it, how far it is read, when it was last changed, and what can be done with it. */
export function ProjectList({ projects }: { projects: readonly HomeProject[] }) {
  const [shelf, setShelf] = useState<HomeShelf>('active');
  const [text, setText] = useState('');
  const [sort, setSort] = useState<Sort>('changed');
  const shown = shownProjects(projects, shelf, text, sort);
  const counts = Object.fromEntries(
    shelves.map((each) => [each, projects.filter((project) => shelfOf(project) === each).length]),
  ) as Record<HomeShelf, number>;
  const offered = shelves.filter((each) => each === 'active' || counts[each] > 0 || each === shelf);
  return (
    <section aria-labelledby="projects" className="mt-8">
      <div className="flex items-center gap-4">
        <h2 id="projects" className="text-base font-semibold">
          {homeWords.projects}
        </h2>
        {offered.length > 1 && (
          <ToggleGroup.Root
            type="single"
            value={shelf}
            onValueChange={(value) => value && setShelf(value as HomeShelf)}
            aria-label={homeWords.projects}
            className="flex gap-1"
          >
            {offered.map((each) => (
              <ToggleGroup.Item
                key={each}
                value={each}
                className="rounded-md px-2 py-1 text-muted hover:text-text data-[state=on]:bg-raised data-[state=on]:text-text"
              >
                {homeWords.shelves[each]} <span className="tabular text-xs text-muted">{counts[each]}</span>
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
        )}
        <label className="relative ml-auto">
          <Search size={14} aria-hidden className="absolute left-2 top-[9px] text-muted" />
          <input
            type="search"
            aria-label={homeWords.search}
            placeholder={homeWords.search}
            value={text}
            onChange={(event) => setText(event.target.value)}
            className={`${inputLook} w-56 !pl-7`}
          />
        </label>
        <label className="flex items-center gap-2 text-muted">
          {homeWords.sort}
          <select className={inputLook} value={sort} onChange={(event) => setSort(event.target.value as Sort)}>
            {sorts.map((each) => (
              <option key={each} value={each}>
                {homeWords.sorts[each]}
              </option>
            ))}
          </select>
        </label>
      </div>
      <ul className="mt-3 divide-y divide-line border-y border-line">
        {shown.map((project) => (
          <ProjectRow key={project.id} project={project} />
        ))}
        {shown.length === 0 && (
          <li className="py-6 text-center text-muted">
            {text.trim() && counts[shelf] > 0 ? homeWords.noneFound(text.trim()) : homeWords.emptyShelf[shelf]}
          </li>
        )}
      </ul>
    </section>
  );
}

function ProjectRow({ project }: { project: HomeProject }) {
  const { id, name, isDemo, poster, seconds, changedAt } = project;
  const fetcher = useFetcher();
  const [renaming, setRenaming] = useState(false);
  const send = (intent: string, more: Record<string, string> = {}) =>
    void fetcher.submit({ id, intent, ...more }, { method: 'post', action: '/?index' });
  const sendWithUndo = (intent: string, undo: string, says: string) => {
    send(intent);
    toast(says, { duration: 10_000, action: { label: homeWords.undo, onClick: () => send(undo) } });
  };
  const shelf = shelfOf(project);
  // As it will be once the server has it.
  const typed = fetcher.formData?.get('name');
  const shownName = typeof typed === 'string' ? typed : name;
  const details = [contentWords(project), ...(seconds > 0 ? [formatClock(seconds)] : [])].join(' · ');
  const body = (
    <>
      {poster ? (
        <Poster
          media={poster.media}
          sheets={poster.sheets}
          kind={poster.kind}
          seconds={poster.seconds * 0.35}
          width={80}
          height={45}
        />
      ) : (
        <Poster media={id} sheets={null} kind="video" seconds={0} width={80} height={45} />
      )}
      <span className="min-w-0 flex-1">
        <span className="flex items-center gap-2">
          {renaming ? (
            <NameField
              name={name}
              onDone={(next) => {
                setRenaming(false);
                if (next && next !== name) send('rename', { name: next });
              }}
            />
          ) : (
            <span className="truncate text-base font-medium">{shownName}</span>
          )}
          {isDemo && (
            <span title={homeWords.demoHint} className="rounded border border-line px-1.5 text-xs text-muted">
              {homeWords.demo}
            </span>
          )}
        </span>
        <span className="block truncate text-muted">{details}</span>
      </span>
      <span className="w-52 text-right text-muted">
        <span className="block">{stateWords(project)}</span>
        <time dateTime={changedAt} className="block text-xs" suppressHydrationWarning>
          {formatMoment(changedAt)}
        </time>
      </span>
    </>
  );
  const row = 'flex min-w-0 flex-1 items-center gap-4 px-1 py-2';
  const items: [string, () => void][] =
    shelf === 'removed'
      ? [[homeWords.bringBack, () => send('bring-back')]]
      : [
          [homeWords.rename, () => setRenaming(true)],
          [homeWords.copy, () => send('copy')],
          shelf === 'away'
            ? [homeWords.takeOut, () => send('take-out')]
            : [homeWords.putAway, () => sendWithUndo('put-away', 'take-out', homeWords.wasPutAway(name))],
          [homeWords.remove, () => sendWithUndo('delete', 'bring-back', homeWords.removed(name))],
        ];
  return (
    <ContextMenu label={homeWords.menu(name)} entriesAt={() => items.map(([label, act]) => ({ label, act }))}>
      <li className="flex items-center gap-2 hover:bg-raised" data-project={shownName}>
        {shelf === 'removed' || renaming ? (
          <span className={row}>{body}</span>
        ) : (
          <Link to={`/projects/${id}`} className={row}>
            {body}
          </Link>
        )}
        <RowMenu name={name} items={items} />
      </li>
    </ContextMenu>
  );
}

function RowMenu({ name, items }: { name: string; items: readonly (readonly [string, () => void])[] }) {
  // What was chosen may take the focus elsewhere; only a menu that was left gives it back to its button.
  const chosen = useRef(false);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={homeWords.menu(name)}
        className="inline-flex h-8 w-8 items-center justify-center rounded-md text-muted hover:bg-line/60 hover:text-text"
      >
        <Ellipsis size={16} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-44 rounded-md border border-line bg-raised p-1 text-sm shadow-xl"
          onCloseAutoFocus={(event) => {
            if (chosen.current) event.preventDefault();
            chosen.current = false;
          }}
        >
          {items.map(([label, act]) => (
            <DropdownMenu.Item
              key={label}
              onSelect={() => {
                chosen.current = true;
                act();
              }}
              className="rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-line"
            >
              {label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** The name as it is typed; Enter or leaving it takes it, Escape does not. @param onDone hears null when nothing is to change */
function NameField({ name, onDone }: { name: string; onDone(next: string | null): void }) {
  return (
    <input
      autoFocus
      defaultValue={name}
      maxLength={120}
      aria-label={homeWords.emptyName}
      className={`${inputLook} w-80`}
      onFocus={(event) => event.currentTarget.select()}
      onBlur={(event) => onDone(event.currentTarget.value.trim() || null)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          event.currentTarget.value = name;
          event.currentTarget.blur();
        }
      }}
    />
  );
}
