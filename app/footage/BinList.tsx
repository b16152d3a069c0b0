import { FolderPlus, Pencil, Trash2, Users } from 'lucide-react';
import { Fragment, useState } from 'react';
import { Form, Link, useSubmit } from 'react-router';
import { toast } from 'sonner';
import type { Item } from '#usecases/projects';
import { IconButton, inputLook } from '../ui/controls';

interface NamedBin {
  id: string;
  name: string;
}
interface BinListProps {
  bins: readonly NamedBin[];
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
        <Fragment key={each.id ?? 'all'}>
          <button
            type="button"
            aria-current={bin === each.id}
            onClick={() => onOpen(each.id)}
            className={`flex w-full justify-between rounded px-2 py-1.5 text-left hover:bg-raised ${bin === each.id ? 'bg-raised font-semibold' : 'text-muted'}`}
          >
            <span className="truncate">{each.name}</span>
            <span className="tabular text-xs">{items.filter((item) => !each.id || item.binId === each.id).length}</span>
          </button>
          {each.id !== null && each.id === bin && <OpenBin bin={each} onGone={() => onOpen(null)} />}
        </Fragment>
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

/** What can be done with the open bin: another name, or away with it; its files stay in the project. */
function OpenBin({ bin, onGone }: { bin: NamedBin; onGone(): void }) {
  // It goes on when this has gone, as the way back needs it.
  const submit = useSubmit();
  const [renaming, setRenaming] = useState(false);
  const send = (intent: string, more: Record<string, string> = {}) =>
    void submit({ intent, bin: bin.id, ...more }, { method: 'post', navigate: false });
  const rename = (name: string) => {
    setRenaming(false);
    if (name.trim() && name.trim() !== bin.name) send('rename-bin', { name: name.trim() });
  };
  const remove = () => {
    send('delete-bin');
    onGone();
    toast(`The bin “${bin.name}” is deleted; its files stay in the project.`, {
      duration: 10_000,
      action: { label: 'Undo', onClick: () => send('bring-back-bin') },
    });
  };
  if (renaming)
    return (
      <input
        aria-label={`New name of the bin “${bin.name}”`}
        className={`${inputLook} mt-1 w-full !h-7`}
        defaultValue={bin.name}
        maxLength={120}
        autoFocus
        onFocus={(event) => event.target.select()}
        onBlur={(event) => rename(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') rename(event.currentTarget.value);
          if (event.key === 'Escape') setRenaming(false);
        }}
      />
    );
  return (
    <div className="flex justify-end gap-1">
      <IconButton label={`Rename the bin “${bin.name}”`} onClick={() => setRenaming(true)}>
        <Pencil size={14} />
      </IconButton>
      <IconButton label={`Delete the bin “${bin.name}”`} onClick={remove}>
        <Trash2 size={14} />
      </IconButton>
    </div>
  );
}
