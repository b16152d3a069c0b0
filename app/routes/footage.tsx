import { FilePlus, FolderPlus, Link as LinkIcon, Upload, Users } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { Form, Link, useFetcher, useOutletContext, useSearchParams } from 'react-router';
import { summarySentence } from '#core/readings';
import { formatClock, framesPerSecond } from '#core/time';
import { changeFootage, showFootage } from '#usecases/footage';
import type { Item, ProjectData } from '#usecases/projects';
import { LinkRows } from '../footage/LinkRows';
import { MiniTraces } from '../drawing/MiniTraces';
import { Poster } from '../drawing/Poster';
import { TakenOut, TakeOut } from '../footage/TakeOut';
import { failed, modelOf, succeeded } from '../server/answer.server';
import { Button, Field, IconButton, inputLook } from '../ui/controls';
import { formatSize, formatTimeLeft } from '../ui/format';
import { useUploads, type UploadLine } from '../ui/useUploads';
import type { Route } from './+types/footage';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showFootage(params.projectId));

export async function action({ params, request }: Route.ActionArgs) {
  const form = await request.formData();
  const changed = await changeFootage(params.projectId, form.get('intent'), form);
  return changed.ok ? succeeded(changed.value) : failed(changed);
}

type SortKey = 'order' | 'name' | 'length' | 'added';
const sorts: Record<SortKey, (a: Item, b: Item) => number> = {
  order: (a, b) => a.position - b.position,
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  length: (a, b) => (b.probe?.durationSeconds ?? 0) - (a.probe?.durationSeconds ?? 0),
  added: (a, b) => +new Date(b.createdAt) - +new Date(a.createdAt),
};

export default function Footage({ loaderData, params, actionData }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const [search, setSearch] = useSearchParams();
  const bin = search.get('bin');
  const sort = (search.get('sort') ?? 'order') as SortKey;
  const { uploads, add, cancel } = useUploads(params.projectId, bin);
  const [over, setOver] = useState(false);
  const [chosen, setChosen] = useState<Set<string>>(new Set());
  const picker = useRef<HTMLInputElement>(null);
  const fetcher = useFetcher();
  const open = loaderData.bins.find((each) => each.id === bin) ?? null;
  const shown = items.filter((item) => !bin || item.binId === bin).sort(sorts[sort] ?? sorts.order);
  const submit = (intent: string, more: Record<string, string> = {}) => {
    const form = new FormData();
    form.set('intent', intent);
    for (const id of chosen) form.append('ids', id);
    for (const [name, value] of Object.entries(more)) form.set(name, value);
    void fetcher.submit(form, { method: 'post' });
    setChosen(new Set());
  };
  const set = (name: string, value: string | null) =>
    setSearch((now) => {
      if (value) now.set(name, value);
      else now.delete(name);
      return now;
    });
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    add([...event.dataTransfer.files]);
  };
  return (
    <div
      className="relative flex min-h-0 flex-1"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={drop}
    >
      <nav aria-label="Bins" className="w-48 shrink-0 border-r border-line p-3">
        {[{ id: null, name: 'All footage' }, ...loaderData.bins].map((each) => (
          <button
            key={each.id ?? 'all'}
            type="button"
            aria-current={bin === each.id}
            onClick={() => set('bin', each.id)}
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
        {actionData?.problems && 'name' in actionData.problems && (
          <p role="alert" className="mt-1 text-xs text-shake">
            {(actionData.problems as Record<string, string>).name}
          </p>
        )}
      </nav>
      <main className="flex min-w-0 flex-1 flex-col">
        <div className="flex h-12 shrink-0 items-center gap-2 border-b border-line px-4">
          <h1 className="sr-only">Footage</h1>
          <Button look={items.length ? 'plain' : 'lamp'} onClick={() => picker.current?.click()}>
            <FilePlus size={15} aria-hidden /> Bring in files
          </Button>
          <input
            ref={picker}
            type="file"
            multiple
            hidden
            accept="video/*,audio/*,image/*,.mkv,.mts,.mxf"
            onChange={(event) => {
              add([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
          {chosen.size > 0 ? (
            <>
              <span className="ml-3 text-muted">{chosen.size} chosen</span>
              <select
                aria-label="Move to bin"
                className={`${inputLook} !h-[30px]`}
                value=""
                onChange={(event) => submit('move', { binId: event.target.value === 'none' ? '' : event.target.value })}
              >
                <option value="" disabled>
                  Move to bin…
                </option>
                <option value="none">No bin</option>
                {loaderData.bins.map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.name}
                  </option>
                ))}
              </select>
              <Button onClick={() => submit('read')}>Try reading again</Button>
              <TakeOut ids={[...chosen]} onDone={() => setChosen(new Set())} />
            </>
          ) : (
            <>
              <ByLink bin={bin} />
              <span className="ml-1 truncate text-muted">or drop video, photos, music and sound here</span>
            </>
          )}
          {open && (
            <label
              className="ml-3 flex items-center gap-2"
              title="Two cameras that ran at the same time: their offsets are found by their sound, and steady and shaky reels keep every piece in its place"
            >
              <input
                type="checkbox"
                className="h-4 w-4 accent-[#9fabb2]"
                checked={open.synced}
                onChange={(event) =>
                  void fetcher.submit(
                    { intent: 'in-step', binId: open.id, synced: event.target.checked ? 'yes' : 'no' },
                    { method: 'post' },
                  )
                }
              />
              Cameras in step
            </label>
          )}
          <label className="ml-auto flex items-center gap-2 text-muted">
            Sort by
            <select
              className={`${inputLook} !h-[30px]`}
              value={sort}
              onChange={(event) => set('sort', event.target.value)}
            >
              <option value="order">order of arrival</option>
              <option value="name">name</option>
              <option value="length">length</option>
              <option value="added">date</option>
            </select>
          </label>
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto">
          <LinkRows projectId={params.projectId} />
          {uploads.map((upload) => (
            <UploadRow key={upload.id} upload={upload} onCancel={() => cancel(upload.id)} />
          ))}
          {loaderData.takenOut.length > 0 && <TakenOut items={loaderData.takenOut} />}
          {shown.length === 0 && uploads.length === 0 ? (
            <Empty />
          ) : (
            <table className="w-full border-collapse">
              <thead className="sticky top-0 z-10 bg-ground text-left text-xs text-muted">
                <tr className="border-b border-line [&>th]:py-2 [&>th]:font-normal">
                  <th className="w-9 pl-4">
                    <span className="sr-only">Choose</span>
                  </th>
                  <th className="w-[108px]">
                    <span className="sr-only">Picture</span>
                  </th>
                  <th className="w-[24%]">Name</th>
                  <th className="w-20">Length</th>
                  <th className="w-40">Format</th>
                  <th>What was read</th>
                </tr>
              </thead>
              <tbody>
                {shown.map((item) => (
                  <Row
                    key={item.id}
                    item={item}
                    chosen={chosen.has(item.id)}
                    inStep={Boolean(open?.synced)}
                    onChoose={() =>
                      setChosen((now) => {
                        const next = new Set(now);
                        if (!next.delete(item.id)) next.add(item.id);
                        return next;
                      })
                    }
                  />
                ))}
              </tbody>
            </table>
          )}
        </div>
      </main>
      {over && (
        <div className="pointer-events-none absolute inset-2 z-20 flex items-center justify-center rounded-md border-2 border-dashed border-lamp bg-ground/80 text-base">
          Drop to bring the files in
        </div>
      )}
    </div>
  );
}

/** Footage from a direct media address. */
function ByLink({ bin }: { bin: string | null }) {
  const sender = useFetcher<{ problems: Record<string, string> }>();
  const [open, setOpen] = useState(false);
  const problem = sender.state === 'idle' ? sender.data?.problems.address : undefined;
  const sent = sender.state === 'idle' && sender.data && !problem;
  useEffect(() => {
    if (sent) setOpen(false);
  }, [sent]);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>
          <LinkIcon size={15} aria-hidden /> By link
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          className="z-50 w-[420px] rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <sender.Form method="post" className="space-y-2.5">
            <input type="hidden" name="intent" value="link" />
            <input type="hidden" name="binId" value={bin ?? ''} />
            <Field label="Address of a film, sound or picture" error={problem}>
              <input name="address" autoFocus placeholder="https://…" className={`${inputLook} w-full`} />
            </Field>
            <p className="text-xs text-muted">
              It must lead to the file itself. A connection that breaks is taken up again where it stopped.
            </p>
            <Button look="lamp" type="submit" disabled={sender.state !== 'idle'}>
              Bring it in
            </Button>
          </sender.Form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Row({ item, chosen, inStep, onChoose }: { item: Item; chosen: boolean; inStep: boolean; onChoose(): void }) {
  const { probe } = item;
  return (
    <tr className={`border-b border-line/60 hover:bg-raised ${chosen ? 'bg-raised' : ''}`}>
      <td className="pl-4">
        <input
          type="checkbox"
          aria-label={`Choose ${item.name}`}
          className="h-4 w-4 accent-[#9fabb2]"
          checked={chosen}
          onChange={onChoose}
        />
      </td>
      <td className="py-1.5">
        <Poster
          media={item.id}
          sheets={item.sheets}
          kind={probe?.kind ?? null}
          seconds={(probe?.durationSeconds ?? 0) * 0.35}
        />
      </td>
      <td className="max-w-0 pr-4">
        <Link
          to={item.id}
          className="block truncate text-sm font-medium hover:underline"
          title={`Reading report of ${item.name}`}
        >
          {item.name}
        </Link>
        <span className="text-xs text-muted">
          {formatSize(item.size)}
          {inStep && probe?.kind !== 'photo' && (
            <span className="tabular">
              {' '}
              ·{' '}
              {item.syncOffset === null
                ? 'place not known'
                : `begins at ${item.syncOffset < 0 ? '−' : ''}${formatClock(Math.abs(item.syncOffset), true)}`}
            </span>
          )}
        </span>
      </td>
      <td className="tabular">{probe && probe.kind !== 'photo' ? formatClock(probe.durationSeconds) : ''}</td>
      <td className="text-muted">{probe && formatOf(probe)}</td>
      <td className="pr-4">
        {item.problem ? (
          <span className="text-shake">
            {item.problem} <ReadNow id={item.id} label="Try again" />
          </span>
        ) : (
          <>
            <Reading item={item} />
            {probe?.kind === 'video' && <MiniTraces media={item.id} stamp={String(item.readAt)} />}
          </>
        )}
      </td>
    </tr>
  );
}

function formatOf(probe: NonNullable<Item['probe']>): string {
  if (probe.kind === 'sound') return 'sound';
  const size = `${probe.width}×${probe.height}`;
  return probe.kind === 'photo'
    ? `photo, ${size}`
    : `${size}, ${Number((probe.rate ? framesPerSecond(probe.rate) : 0).toFixed(2))} fps`;
}

/** Asks for an item to be read that nothing reads now. */
function ReadNow({ id, label }: { id: string; label: string }) {
  const fetcher = useFetcher();
  return (
    <button
      type="button"
      disabled={fetcher.state !== 'idle'}
      className="underline hover:text-text"
      onClick={() => void fetcher.submit({ intent: 'read', ids: id }, { method: 'post' })}
    >
      {label}
    </button>
  );
}

function Reading({ item }: { item: Item }) {
  if (item.state && item.summary && item.nextTask)
    return (
      <span className="text-muted">
        {summarySentence(item.summary)}
        <span className="block text-xs">another range {item.state === 'running' ? 'is being read' : item.waits}</span>
      </span>
    );
  if (item.state === 'running')
    return (
      <span className="text-muted">
        being read…{item.isRough && item.summary ? ` so far: ${summarySentence(item.summary)}` : ''}
      </span>
    );
  if (item.state === 'queued') return <span className="text-muted">{item.waits ?? 'waits to be read'}</span>;
  if (!item.summary || !item.probe)
    return (
      <span className="text-muted">
        not read. <ReadNow id={item.id} label="Read it" />
      </span>
    );
  if (item.isRough)
    return (
      <span className="text-muted">
        first look only: {summarySentence(item.summary)}. <ReadNow id={item.id} label="Read on" />
      </span>
    );
  if (item.probe.kind === 'sound')
    return (
      <span className="text-muted">
        {item.summary.speechShare > 0.1 ? `${Math.round(item.summary.speechShare * 100)} % talk` : 'music or sound'}
        {typeof item.loudness?.integratedLufs === 'number' && `, ${item.loudness.integratedLufs.toFixed(1)} LUFS`}
      </span>
    );
  return (
    <span className="text-muted">
      {item.probe.kind === 'photo'
        ? item.summary.faces
          ? `${item.summary.faces} ${item.summary.faces === 1 ? 'face' : 'faces'}`
          : 'no faces'
        : summarySentence(item.summary)}
      {item.warnings?.[0] && <span className="block text-xs text-shake">{item.warnings[0]}</span>}
    </span>
  );
}

function UploadRow({ upload, onCancel }: { upload: UploadLine; onCancel(): void }) {
  return (
    <div className="flex items-center gap-3 border-b border-line/60 px-4 py-2" role="status">
      <Upload size={15} className="text-muted" aria-hidden />
      <span className="w-64 truncate">{upload.name}</span>
      <span className="h-1 w-48 overflow-hidden rounded bg-line">
        <span className="block h-full bg-text/70" style={{ width: `${upload.share * 100}%` }} />
      </span>
      <span className="text-muted">
        {upload.problem ? (
          <span className="text-shake">{upload.problem}</span>
        ) : (
          `${formatSize(upload.share * upload.size)} of ${formatSize(upload.size)}${upload.secondsLeft === null ? '' : `, ${formatTimeLeft(upload.secondsLeft)}`}`
        )}
      </span>
      <button type="button" className="ml-auto text-muted underline hover:text-text" onClick={onCancel}>
        {upload.problem ? 'Dismiss' : 'Cancel'}
      </button>
    </div>
  );
}

const Empty = () => (
  <div className="flex h-full flex-col items-center justify-center gap-2 text-center text-muted">
    <Upload size={28} aria-hidden />
    <p className="text-base text-text">Nothing in here yet</p>
    <p className="max-w-sm">
      Drop footage, photos, music or sound anywhere on this screen. Large files may be broken off; they go on where they
      stopped.
    </p>
  </div>
);
