import { Pencil, Printer, RotateCcw, Search, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useEffect, useState, type ReactNode } from 'react';
import {
  clashesOf,
  combinationOf,
  giveKeys,
  isFree,
  keepKeys,
  keysOf,
  shortcuts,
  showCombination,
  takeKey,
  useKeptKeys,
  type Combination,
  type KeptKeys,
  type ShortcutName,
} from '../keys';
import { Button, IconButton, inputLook } from './controls';
import { SetsBar } from './KeySets';

interface KeySheetProps {
  open: boolean;
  onOpenChange(open: boolean): void;
  sets: [string, readonly ShortcutName[]][];
}

/** The sheet of keys that work on a screen, by where they work: looked through, printed, and given other keys. */
export function KeySheet({ open, onOpenChange, sets }: KeySheetProps) {
  const [query, setQuery] = useState('');
  const [changes, setChanges] = useState(false);
  const kept = useKeptKeys();
  const wanted = query.trim().toLowerCase();
  const found = sets.map(([title, names]): [string, ShortcutName[]] => [
    title,
    names.filter(
      (name) =>
        shortcuts[name].does.toLowerCase().includes(wanted) ||
        keysOf(name, kept).some((key) => showCombination(key).toLowerCase() === wanted),
    ),
  ]);
  const none = found.every(([, names]) => names.length === 0);
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50 print:hidden" />
        <Dialog.Content
          className="print-sheet fixed left-1/2 top-1/2 z-50 max-h-[92vh] w-[960px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md border border-line bg-raised p-5 shadow-2xl"
          aria-describedby={undefined}
        >
          <div className="flex items-center gap-2">
            <Dialog.Title className="mr-auto text-base font-semibold">Keys on this screen</Dialog.Title>
            <label className="relative print:hidden">
              <Search size={14} className="absolute left-2 top-2 text-muted" aria-hidden />
              <input
                type="search"
                aria-label="Find a key"
                placeholder="what it does, or the key"
                value={query}
                onChange={(event) => setQuery(event.target.value)}
                className={`${inputLook} w-52 pl-7`}
              />
            </label>
            <Button className="print:hidden" aria-pressed={changes} onClick={() => setChanges(!changes)}>
              <Pencil size={14} aria-hidden /> {changes ? 'Done' : 'Change keys'}
            </Button>
            <IconButton label="Print" className="print:hidden" onClick={() => window.print()}>
              <Printer size={15} />
            </IconButton>
            <Dialog.Close asChild>
              <IconButton label="Close" className="print:hidden">
                <X size={15} />
              </IconButton>
            </Dialog.Close>
          </div>
          {changes && <SetsBar kept={kept} />}
          {none && <p className="mt-3 text-muted">No command of this screen is called that.</p>}
          {found.map(([title, names]) => (
            <section key={title} hidden={names.length === 0}>
              {sets.length > 1 && <h3 className="mt-2 text-xs font-semibold">{title}</h3>}
              <dl className={`mt-1 gap-x-6 text-xs ${changes ? 'columns-2' : 'columns-3'}`}>
                {names.map((name) =>
                  changes ? (
                    <ChangeRow key={name} name={name} kept={kept} />
                  ) : (
                    <Row key={name} name={name} keys={<Keys keys={keysOf(name, kept)} />} />
                  ),
                )}
              </dl>
            </section>
          ))}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** The first key; others that do the same are told when one looks. */
const Keys = ({ keys }: { keys: readonly Combination[] }) => (
  <span title={keys.map((key) => showCombination(key)).join(', ')}>
    {keys.length > 0 ? showCombination(keys[0]!) : '–'}
  </span>
);

const Row = ({ name, keys, children }: { name: ShortcutName; keys: ReactNode; children?: ReactNode }) => (
  <div className="flex break-inside-avoid items-baseline gap-2 py-[2px] leading-4">
    <dt className="tabular w-[104px] shrink-0 text-text">{keys}</dt>
    <dd className="min-w-0 flex-1 text-muted">
      {shortcuts[name].does}
      {children}
    </dd>
  </div>
);

/** A command that can be given another key: its key is pressed, and the next one is taken. */
function ChangeRow({ name, kept }: { name: ShortcutName; kept: KeptKeys }) {
  const [listens, setListens] = useState(false);
  const [asked, setAsked] = useState<Combination | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const usual = shortcuts[name].keys;
  const now = keysOf(name, kept);
  useEffect(() => {
    if (!listens) return;
    const take = (event: KeyboardEvent) => {
      const key = combinationOf(event);
      if (key === null) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      setListens(false);
      if (key === 'escape') return;
      if (!isFree(key)) return setProblem(`${showCombination(key)} is kept by the browser or by dialogs.`);
      setProblem(null);
      if (clashesOf(name, key, kept).length > 0) setAsked(key);
      else keepKeys(takeKey(kept, name, key));
    };
    // Before everything else, so that no command is done meanwhile.
    window.addEventListener('keydown', take, true);
    return () => window.removeEventListener('keydown', take, true);
  }, [listens, kept, name]);
  const listen = () => {
    setAsked(null);
    setProblem(null);
    setListens(true);
  };
  return (
    <Row
      name={name}
      keys={
        <button
          type="button"
          aria-label={`Another key for: ${shortcuts[name].does}`}
          aria-pressed={listens}
          className={`w-full rounded border px-1.5 py-0.5 text-left tracking-tight ${listens ? 'border-lampline' : 'border-line hover:border-muted'}`}
          onClick={listen}
        >
          {listens ? 'press a key' : <Keys keys={now} />}
        </button>
      }
    >
      {now.join() !== usual && (
        <button
          type="button"
          aria-label={`The usual key for: ${shortcuts[name].does}`}
          title={`Usually ${showCombination(usual.split(',')[0]!)}`}
          className="ml-1 align-middle hover:text-text"
          onClick={() => keepKeys(giveKeys(kept, { [name]: usual.split(',') }))}
        >
          <RotateCcw size={12} />
        </button>
      )}
      {problem && (
        <span role="alert" className="block text-shake">
          {problem}
        </span>
      )}
      {asked && (
        <span role="alert" className="block text-text">
          {showCombination(asked)} is:{' '}
          {clashesOf(name, asked, kept)
            .map((other) => shortcuts[other].does)
            .join('; ')}
          <span className="mt-1 flex gap-2">
            <Button
              className="!h-6"
              onClick={() => {
                keepKeys(takeKey(kept, name, asked));
                setAsked(null);
              }}
            >
              Take it from there
            </Button>
            <Button look="quiet" className="!h-6" onClick={() => setAsked(null)}>
              Cancel
            </Button>
          </span>
        </span>
      )}
    </Row>
  );
}
