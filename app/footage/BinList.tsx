import { FolderPlus, Users } from 'lucide-react';
import { Form, Link } from 'react-router';
import type { Item } from '#usecases/projects';
import { IconButton, inputLook } from '../ui/controls';

interface BinListProps {
  bins: readonly { id: string; name: string }[];
  items: readonly Item[];
  /** The open one; null for all footage. */
  bin: string | null;
  onOpen(bin: string | null): void;
  problem: string | undefined;
}

/** Bins with how many items are in each, a new one, and the way to the people. */
export function BinList({ bins, items, bin, onOpen, problem }: BinListProps) {
  return (
    <nav aria-label="Bins" className="w-48 shrink-0 border-r border-line p-3">
      {[{ id: null, name: 'All footage' }, ...bins].map((each) => (
        <button
          key={each.id ?? 'all'}
          type="button"
          aria-current={bin === each.id}
          onClick={() => onOpen(each.id)}
          className={`flex w-full justify-between rounded px-2 py-1.5 text-left hover:bg-raised ${bin === each.id ? 'bg-raised font-semibold' : 'text-muted'}`}
        >
          <span className="truncate">{each.name}</span>
          <span className="tabular text-xs">{items.filter((item) => !each.id || item.binId === each.id).length}</span>
        </button>
      ))}
      <Form
        method="post"
        className="mt-3 flex gap-1"
        onSubmit={(event) => setTimeout(() => (event.target as HTMLFormElement).reset())}
      >
        <input type="hidden" name="intent" value="new-bin" />
        <input
          name="name"
          aria-label="Name of the new bin"
          className={`${inputLook} w-full !h-7`}
          placeholder="New bin"
          maxLength={120}
        />
        <IconButton label="Add bin" type="submit">
          <FolderPlus size={15} />
        </IconButton>
      </Form>
      <Link
        to="people"
        className="mt-3 flex items-center gap-2 rounded border-t border-line px-2 pb-1.5 pt-3 text-muted hover:text-text"
      >
        <Users size={15} aria-hidden /> People
      </Link>
      {problem && (
        <p role="alert" className="mt-1 text-xs text-shake">
          {problem}
        </p>
      )}
    </nav>
  );
}
