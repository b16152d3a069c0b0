import { counted } from '#core/sentences';
import { Trash2, Undo2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useFetcher, useSubmit } from 'react-router';
import { toast } from 'sonner';
import type { Hanging } from '#usecases/footage';
import { Button } from '../ui/controls';
import { useLatest } from '../ui/useLatest';

interface Answer {
  problems: Record<string, string>;
  hanging?: Hanging;
  ids?: string[];
}

const listed = (count: number, one: string, many: string): string[] =>
  count > 0 ? [`${count} ${count === 1 ? one : many}`] : [];

/** Everything that leaves the project with its files, one line a kind. */
export function hangingLines({ decisions, markers, words, shorts, montages, variants, reels }: Hanging): string[] {
  return [
    ...listed(decisions, 'keep or drop', 'keeps and drops'),
    ...listed(markers, 'marker', 'markers'),
    ...listed(words, 'word corrected or brought in', 'words corrected or brought in'),
    ...listed(shorts, 'short that was found', 'shorts that were found'),
    ...listed(montages, 'montage on its beats', 'montages on its beats'),
    ...listed(variants, 'piece of the variants', 'pieces of the variants'),
    ...(reels.length
      ? [`pieces of ${reels.map((name) => `“${name}”`).join(', ')}: the reels stay, and show nothing there`]
      : []),
  ];
}

/** Takes the chosen items out, after saying what hangs on them. */
export function TakeOut({
  ids,
  isOpen,
  onOpen,
  onDone,
}: {
  ids: string[];
  isOpen: boolean;
  /** The other way about. */
  onOpen(): void;
  onDone(): void;
}) {
  const asker = useFetcher<Answer>();
  // Goes on after this button is gone with the choice.
  const submit = useSubmit();
  const items = ids.length === 1 ? 'this item' : `these ${ids.length} items`;
  const send = (intent: string, own: string[]) => {
    const form = new FormData();
    form.set('intent', intent);
    for (const id of own) form.append('ids', id);
    return form;
  };
  const ask = useLatest(() => void asker.submit(send('hanging', ids), { method: 'post' }));
  useEffect(() => {
    if (isOpen) ask.current();
  }, [isOpen, ask]);
  const takeOut = () => {
    onOpen();
    void submit(send('take-out', ids), { method: 'post', navigate: false }).then(() => {
      toast(ids.length === 1 ? 'Taken out.' : `${ids.length} items taken out.`, {
        action: {
          label: 'Bring back',
          onClick: () => void submit(send('bring-back', ids), { method: 'post', navigate: false }),
        },
      });
      onDone();
    });
  };
  const known = asker.state === 'idle' && asker.data?.ids?.join() === ids.join() ? asker.data.hanging : undefined;
  const lines = known && hangingLines(known);
  return (
    <Popover.Root open={isOpen} onOpenChange={onOpen}>
      <Popover.Trigger asChild>
        <Button>
          <Trash2 size={15} aria-hidden /> Take out
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Take out"
          align="start"
          sideOffset={4}
          className="z-50 w-80 rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <p>Take {items} out of the project?</p>
          {!lines ? (
            <p className="mt-2 text-muted" role="status">
              Looking for what hangs on {ids.length === 1 ? 'it' : 'them'}…
            </p>
          ) : lines.length === 0 ? (
            <p className="mt-2 text-muted">Nothing was made of {ids.length === 1 ? 'it' : 'them'} yet.</p>
          ) : (
            <>
              <p className="mt-2 text-muted">With {ids.length === 1 ? 'it' : 'them'}:</p>
              <ul className="list-disc pl-5 text-muted" data-testid="hanging">
                {lines.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </>
          )}
          <p className="mt-2 text-xs text-muted">Nothing is deleted: “Bring back” above the list restores all of it.</p>
          <div className="mt-3 flex gap-2">
            <Button look="lamp" disabled={!lines} onClick={takeOut}>
              Take out
            </Button>
            <Button onClick={onOpen}>Leave it</Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What was taken out of the project, each to be brought back. */
export function TakenOut({ items }: { items: readonly { id: string; name: string }[] }) {
  const fetcher = useFetcher<Answer>();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    if (items.length === 0) setOpen(false);
  }, [items.length]);
  const bringBack = (ids: readonly string[]) => {
    const form = new FormData();
    form.set('intent', 'bring-back');
    for (const id of ids) form.append('ids', id);
    void fetcher.submit(form, { method: 'post' });
  };
  return (
    <section aria-label="Taken out" className="border-b border-line/60 px-4 py-1.5 text-muted">
      <div className="flex items-center gap-3">
        <button type="button" className="hover:text-text" aria-expanded={open} onClick={() => setOpen(!open)}>
          {counted(items.length, 'item')} taken out
        </button>
        <button
          type="button"
          className="flex items-center gap-1.5 underline hover:text-text"
          onClick={() => bringBack(items.map(({ id }) => id))}
        >
          <Undo2 size={14} aria-hidden /> Bring back {items.length === 1 ? `“${items[0]!.name}”` : 'all'}
        </button>
      </div>
      {open && items.length > 1 && (
        <ul className="mt-1">
          {items.map(({ id, name }) => (
            <li key={id} className="flex items-center gap-3 py-0.5">
              <span className="w-64 truncate">{name}</span>
              <button type="button" className="underline hover:text-text" onClick={() => bringBack([id])}>
                Bring back
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
