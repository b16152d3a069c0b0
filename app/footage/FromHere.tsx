import { ChevronRight, Folder, HardDrive } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useFetcher } from 'react-router';
import { formatSize } from '#core/sentences';
import type { HereData } from '#usecases/here';
import { Button } from '../ui/controls';

/** Footage of the machine that Bright Reel runs on: it is used where it lies, without a copy. */
export function FromHere({ projectId, bin }: { projectId: string; bin: string | null }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>
          <HardDrive size={15} aria-hidden /> From this machine
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="From this machine"
          align="start"
          sideOffset={4}
          className="z-50 flex max-h-[70vh] w-[520px] flex-col rounded-md border border-line bg-raised text-sm shadow-xl"
        >
          <Chooser projectId={projectId} bin={bin} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Chooser({ projectId, bin, onDone }: { projectId: string; bin: string | null; onDone(): void }) {
  const [folder, setFolder] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  /** As it was just set; until then as the server has it. */
  const [watched, setWatched] = useState<boolean | null>(null);
  const list = useFetcher<HereData | { problem: string }>();
  const sender = useFetcher<{ problem: string | null; left?: string[] }>();
  const watcher = useFetcher();
  const { load } = list;
  useEffect(() => {
    void load(`/projects/${projectId}/here?folder=${encodeURIComponent(folder)}`);
  }, [load, projectId, folder, sender.data]);
  const data = list.data && 'folders' in list.data ? list.data : null;
  const sent = sender.state === 'idle' && sender.data && !sender.data.problem && chosen.size > 0;
  const left = sender.data?.left ?? [];
  useEffect(() => {
    if (!sent) return;
    setChosen(new Set());
    if (left.length === 0) onDone();
  }, [sent, left.length, onDone]);
  const submit = (by: Pick<typeof sender, 'submit'>, fields: [string, string][]) => {
    const form = new FormData();
    for (const [name, value] of fields) form.append(name, value);
    void by.submit(form, { method: 'post', action: `/projects/${projectId}/footage` });
  };
  const toggle = (path: string) => {
    const next = new Set(chosen);
    if (!next.delete(path)) next.add(path);
    setChosen(next);
  };
  const open = (path: string) => {
    setFolder(path);
    setWatched(null);
    setChosen(new Set());
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-1 border-b border-line p-3">
        <PathLinks folder={folder} onOpen={open} />
      </div>
      <div className="min-h-24 flex-1 overflow-y-auto p-2">
        {!data && list.state !== 'idle' && <p className="p-2 text-muted">Looking…</p>}
        {list.data && !data && (
          <p role="alert" className="p-2 text-shake">
            This folder is not there any more.
          </p>
        )}
        {data?.folders.length === 0 && data.files.length === 0 && (
          <p className="p-2 text-muted">There is no footage in this folder.</p>
        )}
        {data?.folders.map((each) => (
          <div key={each.path} className="flex items-center gap-2 rounded px-2 py-1 hover:bg-line/50">
            <input
              type="checkbox"
              aria-label={`All of ${each.name}`}
              className="h-4 w-4 accent-muted"
              checked={chosen.has(each.path)}
              onChange={() => toggle(each.path)}
            />
            <button
              type="button"
              className="flex min-w-0 flex-1 items-center gap-2 text-left hover:underline"
              onClick={() => open(each.path)}
            >
              <Folder size={15} className="shrink-0 text-muted" aria-hidden />
              <span className="truncate">{each.name}</span>
            </button>
            {each.isWatched && <span className="text-xs text-muted">new files come in by themselves</span>}
          </div>
        ))}
        {data?.files.map((each) => (
          <label key={each.path} className="flex items-center gap-2 rounded px-2 py-1 hover:bg-line/50">
            <input
              type="checkbox"
              className="h-4 w-4 accent-muted"
              checked={each.isIn || chosen.has(each.path)}
              disabled={each.isIn}
              onChange={() => toggle(each.path)}
            />
            <span className={`min-w-0 flex-1 truncate ${each.isIn ? 'text-muted' : ''}`}>{each.name}</span>
            <span className="tabular text-xs text-muted">{each.isIn ? 'is in' : formatSize(each.size)}</span>
          </label>
        ))}
      </div>
      <div className="space-y-2 border-t border-line p-3">
        {left.map((sentence) => (
          <p key={sentence} role="alert" className="text-shake">
            {sentence}
          </p>
        ))}
        <p className="text-xs text-muted">
          Files are used where they lie and are not copied. When one is moved it shows as missing, and can be found
          again.
        </p>
        <div className="flex items-center gap-3">
          <Button
            look="lamp"
            disabled={chosen.size === 0 || sender.state !== 'idle' || watcher.state !== 'idle'}
            onClick={() =>
              submit(sender, [
                ['intent', 'here'],
                ['binId', bin ?? ''],
                ...[...chosen].map((path): [string, string] => ['paths', path]),
              ])
            }
          >
            Bring in {chosen.size > 0 ? `${chosen.size} chosen` : 'what is chosen'}
          </Button>
          {data && (
            <label className="ml-auto flex items-center gap-2">
              <input
                type="checkbox"
                className="h-4 w-4 accent-muted"
                checked={watched ?? data.isWatched}
                onChange={(event) => {
                  setWatched(event.target.checked);
                  submit(watcher, [
                    ['intent', 'watch'],
                    ['path', folder],
                    ['on', event.target.checked ? 'yes' : 'no'],
                  ]);
                }}
              />
              Bring in new files of this folder by themselves
            </label>
          )}
        </div>
      </div>
    </>
  );
}

/** The way to a folder; each step of it opens. */
function PathLinks({ folder, onOpen }: { folder: string; onOpen(path: string): void }) {
  const steps = folder ? folder.split('/') : [];
  return (
    <>
      <button type="button" className="hover:underline" onClick={() => onOpen('')}>
        This machine
      </button>
      {steps.map((step, index) => {
        const path = steps.slice(0, index + 1).join('/');
        return (
          <span key={path} className="flex items-center gap-1">
            <ChevronRight size={13} className="text-muted" aria-hidden />
            <button type="button" className="hover:underline" onClick={() => onOpen(path)}>
              {step}
            </button>
          </span>
        );
      })}
    </>
  );
}
