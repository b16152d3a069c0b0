import { Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { useFetcher, useOutletContext } from 'react-router';
import { changeFootage, showFootage } from '#usecases/footage';
import type { ProjectData } from '#usecases/projects';
import { BinList } from '../footage/BinList';
import { gather } from '../footage/dropped';
import { useFilesLanding } from '../hands/useFilesLanding';
import { FootageBar, type AskedOfChosen } from '../footage/FootageBar';
import { InputLookPart } from '../footage/InputLookPart';
import { LinkRows } from '../footage/LinkRows';
import { RangeForMany } from '../footage/RangeForMany';
import { SplitRows } from '../footage/SplitRows';
import { FootageTable } from '../footage/table/FootageTable';
import { TableTools } from '../footage/table/TableTools';
import { useFootageTable } from '../footage/table/useFootageTable';
import { tableWords } from '../footage/table/words';
import { TakenOut } from '../footage/TakeOut';
import { UploadList } from '../footage/UploadList';
import { useUploads } from '../footage/useUploads';
import { keySets } from '../keys';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import { KeySheet } from '../ui/KeySheet';
import { useAddressValues } from '../ui/useAddressValues';
import { useShortcuts } from '../ui/useShortcuts';
import type { Route } from './+types/footage';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showFootage(params.projectId));

export async function action({ params, request }: Route.ActionArgs) {
  const form = await formOf(request);
  const changed = await changeFootage(params.projectId, form.get('intent'), form);
  return changed.ok ? succeeded(changed.value) : failed(changed);
}

export default function Footage({ loaderData, params, actionData }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const { bins, takenOut, pace, hasHere, tables, split } = loaderData;
  const [asked, setAsked] = useState<AskedOfChosen | null>(null);
  const [search, set] = useAddressValues();
  const bin = search.get('bin');
  const { queue, lines, total, brokenOff } = useUploads(params.projectId);
  const [passedOver, setPassedOver] = useState(0);
  const [help, setHelp] = useState(false);
  useShortcuts({ help: () => setHelp(true) });
  const fetcher = useFetcher();
  const open = bins.find((each) => each.id === bin) ?? null;
  const table = useFootageTable({
    projectId: params.projectId,
    items,
    bins,
    search,
    onSearch: set,
    onMenu: (intent, more) => submit(intent, more),
    onAsk: setAsked,
  });
  const { chosen, clear } = table;
  const submit = (intent: string, more: Record<string, string> = {}) => {
    const form = new FormData();
    form.set('intent', intent);
    for (const id of chosen) form.append('ids', id);
    for (const [name, value] of Object.entries(more)) form.set(name, value);
    void fetcher.submit(form, { method: 'post' });
    clear();
  };
  const take = (found: { file: File; path: string }[]) => {
    const gathered = gather(found, bin);
    setPassedOver(gathered.passedOver);
    queue.add(gathered.files);
  };
  const room = useRef<HTMLDivElement>(null);
  const over = useFilesLanding(room, take, () => 'here') !== null;
  const problems: Record<string, string> = actionData?.problems ?? {};
  return (
    <div ref={room} className="relative flex min-h-0 flex-1">
      <BinList bins={bins} items={items} bin={bin} onOpen={(id) => set('bin', id)} problem={problems.name} />
      <main className="flex min-w-0 flex-1 flex-col">
        <FootageBar
          bins={bins}
          open={open}
          isEmpty={items.length === 0}
          projectId={params.projectId}
          hasHere={hasHere}
          chosen={chosen}
          tools={items.length > 0 && <TableTools {...table.tools} />}
          onFiles={take}
          onChosen={submit}
          onDone={clear}
          asked={asked}
          onAsk={(what) => setAsked(asked === what ? null : what)}
        />
        {asked === 'look' && (chosen.size > 0 || open) && (
          <InputLookPart
            key={chosen.size > 0 ? 'chosen' : open!.id}
            projectId={params.projectId}
            tables={tables}
            items={items.filter((item) => (chosen.size > 0 ? chosen.has(item.id) : item.binId === open!.id))}
            bin={chosen.size > 0 ? null : open}
            pace={pace}
            onDone={() => setAsked(null)}
          />
        )}
        {asked === 'range' && chosen.size > 0 && (
          <RangeForMany items={items.filter((item) => chosen.has(item.id))} pace={pace} onDone={() => setAsked(null)} />
        )}
        <div className="min-h-0 flex-1 overflow-y-auto">
          <LinkRows projectId={params.projectId} />
          <UploadList
            lines={lines}
            total={total}
            brokenOff={brokenOff}
            passedOver={passedOver}
            onCancel={(id) => queue.cancel(id)}
            onCancelAll={() => queue.cancelAll()}
            onFiles={(files) => take(files.map((file) => ({ file, path: file.name })))}
            onForget={(broken) => void queue.forget(broken)}
          />
          <SplitRows recordings={split} />
          {takenOut.length > 0 && <TakenOut items={takenOut} />}
          {table.shown.length > 0 ? (
            <FootageTable {...table.props} />
          ) : table.isFiltered ? (
            <p className="p-6 text-center text-muted">
              {tableWords.noneShown}{' '}
              <button type="button" className="underline hover:text-text" onClick={table.showAll}>
                {tableWords.showAll}
              </button>
            </p>
          ) : (
            lines.length === 0 && <Empty />
          )}
        </div>
      </main>
      <KeySheet open={help} onOpenChange={setHelp} sets={[['Footage', keySets.footage]]} />
      {over && (
        <div className="pointer-events-none absolute inset-2 z-20 flex items-center justify-center rounded-md border-2 border-dashed border-lampline bg-ground/80 text-base">
          Drop to bring it in
        </div>
      )}
    </div>
  );
}

const Empty = () => (
  <div className="flex h-full flex-col items-center justify-center gap-2 text-center text-muted">
    <Upload size={28} aria-hidden />
    <p className="text-base text-text">Nothing in here yet</p>
    <p className="max-w-sm">
      Drop footage, photos, music, sound or whole folders anywhere on this screen; folders become bins. An upload that
      is interrupted goes on where it stopped.
    </p>
  </div>
);
