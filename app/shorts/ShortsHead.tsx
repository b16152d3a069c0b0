import { ArrowLeft, Redo2, RefreshCw, Undo2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Link } from 'react-router';
import { partNames, shortParts } from '#core/shorts';
import { Button, IconButton, inputLook } from '../ui/controls';
import { RenderShorts } from './RenderShorts';
import type { Filter, ShortsDesk } from './useShortsDesk';
import { WishForm } from './WishForm';

/** Which recording, how many shorts of what length; what can be done with all of them. */
export function ShortsHead({ place }: { place: ShortsDesk }) {
  const { projectId, name, set, shorts, short, address, history } = place;
  return (
    <div className="flex min-h-12 shrink-0 items-center gap-3 px-4">
      <Link to={`/projects/${projectId}/shorts`} className="text-muted hover:text-text" aria-label="All shorts">
        <ArrowLeft size={16} />
      </Link>
      <h1 className="truncate text-base font-semibold">Shorts from “{name}”</h1>
      <span className="tabular whitespace-nowrap text-muted" data-testid="shorts-count">
        {shorts.length} of {outOf(place)} · {set.wish.minSeconds} to {set.wish.maxSeconds} s · {set.wish.shape}
      </span>
      <span className="ml-auto flex items-center gap-2">
        <FilterMenu place={place} />
        <IconButton label="Undo" command="undo" disabled={!history.canUndo} onClick={history.undo}>
          <Undo2 size={16} />
        </IconButton>
        <IconButton label="Redo" command="redo" disabled={!history.canRedo} onClick={history.redo}>
          <Redo2 size={16} />
        </IconButton>
        {set.putAway.length > 0 && <PutAway shorts={set.putAway} onBack={place.bringBack} />}
        <FindAgain place={place} />
        <RenderShorts shorts={set.shorts} chosen={short?.id ?? ''} address={address} projectId={projectId} />
      </span>
    </div>
  );
}

/** As many as there are; where fewer were found than wished, that. */
function outOf({ set, shorts }: ShortsDesk): string {
  const fewer = set.shorts.length < set.wish.count && shorts.length === set.shorts.length;
  return fewer ? `${set.wish.count} wished` : String(set.shorts.length);
}

function FilterMenu({ place: { filter, setFilter } }: { place: ShortsDesk }) {
  return (
    <select
      aria-label="Show only"
      className={`${inputLook} !h-[30px] w-28`}
      value={filter}
      onChange={(event) => {
        event.currentTarget.blur();
        setFilter(event.target.value as Filter);
      }}
    >
      <option value="">all of them</option>
      <option value="praised">praised</option>
      {shortParts.map((part) => (
        <option key={part} value={part}>
          more {partNames[part].toLowerCase()}
        </option>
      ))}
    </select>
  );
}

/** Shorts that were put away, each to be brought back. */
function PutAway({ shorts, onBack }: { shorts: readonly { id: string; title: string }[]; onBack(id: string): void }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>{shorts.length} put away</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Put away"
          align="end"
          sideOffset={4}
          className="z-50 max-h-[60vh] w-80 overflow-y-auto rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <h2 className="text-xs text-muted">Put away</h2>
          <ul>
            {shorts.map(({ id, title }) => (
              <li key={id} className="flex items-center gap-3 py-1">
                <span className="truncate">{title}</span>
                <button type="button" className="ml-auto shrink-0 underline hover:text-text" onClick={() => onBack(id)}>
                  Bring back
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function FindAgain({ place: { set, items, projectId } }: { place: ShortsDesk }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>
          <RefreshCw size={15} aria-hidden /> Find again
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Find again"
          align="end"
          sideOffset={4}
          className="z-50 max-h-[80vh] w-[420px] overflow-y-auto rounded-md border border-line bg-raised p-4 text-sm shadow-xl"
        >
          <p className="mb-3 text-muted">Looks anew, with other wishes. These shorts stay as they are.</p>
          <WishForm
            items={items}
            styles={set.styles}
            problems={{}}
            media={set.mediaId}
            before={set.wish}
            action={`/projects/${projectId}/shorts`}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
