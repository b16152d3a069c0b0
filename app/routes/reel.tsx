import { ArrowLeft, Magnet, Redo2, Undo2, UnfoldHorizontal, X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, redirect, useFetcher, useOutletContext, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { applyCommand, compareReels, snapKinds, type ReelCommand, type SnapKind } from '#core/reel';
import { formatClock } from '#core/time';
import type { ProjectData } from '#usecases/projects';
import { changeWholeReel, showReel } from '#usecases/reels';
import { renderReel } from '#usecases/renders';
import { keySets } from '../keys';
import { CutFrames, type Moving } from '../reel/CutFrames';
import { EndingBar } from '../reel/EndingBar';
import { FormatMenu } from '../reel/FormatMenu';
import { LookPanel } from '../reel/LookPanel';
import { PiecePanel } from '../reel/PiecePanel';
import { KeysHere } from '../reel/ReelDock';
import { ReelStrips } from '../reel/ReelStrips';
import { ReelViewer } from '../reel/ReelViewer';
import { RenderMenu } from '../reel/RenderMenu';
import { SoundPanel } from '../reel/SoundPanel';
import { TakeAway } from '../reel/TakeAway';
import { ReelCaptions } from '../reel/ReelCaptions';
import { TitlesPanel } from '../reel/TitlesPanel';
import { FramePanel } from '../shorts/FramePanel';
import { useFraming } from '../shorts/useFraming';
import { useOneHistory } from '../reel/useOneHistory';
import { useReelDesk } from '../reel/useReelDesk';
import { VersionsPanel, type Step } from '../reel/VersionsPanel';
import { failed, modelOf, succeeded } from '../server/answer.server';
import { Column } from '../ui/Column';
import { IconButton, inputLook } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { useShortcuts } from '../ui/useShortcuts';
import type { Route } from './+types/reel';

/** The reel, and another one, or an earlier version ("REEL@NUMBER"), above it when the address asks for one (`with`). */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showReel(params.projectId, params.reelId, new URL(request.url).searchParams.get('with')));

export async function action({ params, request }: Route.ActionArgs) {
  const { projectId, reelId } = params;
  const form = await request.formData();
  if (form.get('intent') === 'render') {
    form.delete('intent');
    const rendered = await renderReel(projectId, reelId, form);
    return rendered.ok ? redirect(`/projects/${projectId}/outputs`) : failed(rendered);
  }
  const changed = await changeWholeReel(projectId, reelId, form);
  if (!changed.ok) return failed(changed);
  const { goTo } = changed.value;
  return goTo === undefined ? succeeded() : redirect(`/projects/${projectId}/reels/${goTo ?? ''}`);
}

type Which = 'upper' | 'lower';
const tabs: [string, string][] = [
  ['piece', 'Piece'],
  ['frame', 'Frame'],
  ['look', 'Look'],
  ['titles', 'Titles'],
  ['captions', 'Captions'],
  ['sound', 'Sound'],
  ['versions', 'Versions'],
];

export default function ReelScreen({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const lower = useReelDesk(loaderData.reel, items, loaderData.beats);
  const upper = useReelDesk(loaderData.other, items);
  const [search, setSearch] = useSearchParams();
  const [focus, setFocus] = useState<Which>('lower');
  const two = upper.reel !== null;
  const which: Which = two ? focus : 'lower';
  const desk = which === 'upper' ? upper : lower;
  const [help, setHelp] = useState(false);
  const [tab, setTab] = useState('piece');
  const [moving, setMoving] = useState<Moving | null>(null);
  const [title, setTitle] = useState<string | null>(null);
  const { snaps, snapping, setSnapping, setSnap, inPlace, setInPlace } = useEditModes();
  const reel = lower.reel ?? loaderData.reel;
  const { rate } = reel.document;
  const versionAbove = upper.reel?.readOnly ? upper.document : null;
  const differences = useMemo(
    () => (versionAbove && lower.document ? compareReels(versionAbove, lower.document) : null),
    [versionAbove, lower.document],
  );
  useEffect(() => {
    if (versionAbove) setTab('versions');
  }, [versionAbove]);

  // What was done last is taken back first, in whichever reel, and a move in both.
  const past = useRef<Which[][]>([]);
  const future = useRef<Which[][]>([]);
  const did = (...where: Which[]) => {
    past.current.push(where);
    future.current = [];
  };
  const act = (edit: () => boolean) => {
    if (edit()) did(which);
  };
  const history = useOneHistory(desk);
  const step = (direction: 'undo' | 'redo') => () => {
    if (direction === 'undo' ? history.wordsWereLast() : history.wordsAreNext()) return history[direction]();
    const [from, to] = direction === 'undo' ? [past.current, future.current] : [future.current, past.current];
    const where = from.pop() ?? [which];
    to.push(where);
    for (const each of where) (each === 'upper' ? upper : lower).live[direction]();
  };
  const sendOver = (move: boolean) => {
    const { clip } = desk;
    if (!two || !clip) return;
    const [target, there]: [typeof lower, Which] = which === 'upper' ? [lower, 'lower'] : [upper, 'upper'];
    const carried = desk.takeUpChosen();
    if (!carried || !desk.document) return;
    const gone = carried.pieces.map((piece): ReelCommand => ({ type: 'handOver', clip: piece.clip.id }));
    const leave: ReelCommand =
      gone.length === 1
        ? gone[0]!
        : { type: 'several', name: `moved ${gone.length} pieces to another reel`, commands: gone };
    // What cannot leave is not put into the other reel either; the edit says why.
    if (move && !applyCommand(desk.document, leave, desk.sources).ok) return void desk.live.edit(leave);
    if (!target.putCarried('append', carried)) return;
    if (move && desk.live.edit(leave)) did(which, there);
    else did(there);
  };
  // The history is asked for while it is looked at, and follows what is done to the reel.
  const steps = useFetcher<Step[]>();
  const { head } = reel;
  const { load: loadSteps } = steps;
  const stepsAddress = `/projects/${params.projectId}/reels/${params.reelId}/steps`;
  const showsSteps = tab === 'versions' && lower.live.state === 'saved';
  useEffect(() => {
    if (showsSteps) void loadSteps(stepsAddress);
  }, [showsSteps, head, loadSteps, stepsAddress]);

  const framing = useFraming(desk);
  const { player, actions } = desk;
  useShortcuts({
    play: () => (player.playing ? player.pause() : player.play()),
    halt: player.pause,
    forward: player.play,
    frameBack: () => player.seek(player.time - desk.step),
    frameOn: () => player.seek(player.time + desk.step),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    toStart: () => player.seek(0),
    toEnd: () => player.seek(desk.total),
    previous: () => desk.pick(desk.index - 1),
    next: () => desk.pick(desk.index + 1),
    undo: step('undo'),
    redo: step('redo'),
    split: () => act(actions.split),
    takeOut: () => act(actions.takeOut),
    lift: () => act(actions.lift),
    trimIn: () => act(() => actions.trimIn(inPlace)),
    trimOut: () => act(() => actions.trimOut(inPlace)),
    hold: () => act(actions.hold),
    rollBack: () => act(() => actions.roll(-1)),
    rollOn: () => act(() => actions.roll(1)),
    slipBack: () => act(() => actions.slip(-1)),
    slipOn: () => act(() => actions.slip(1)),
    marker: () => act(() => actions.mark()),
    markerBefore: () => desk.toMarker(-1),
    markerAfter: () => desk.toMarker(1),
    mutePieces: () => act(actions.mute),
    chooseAll: desk.chooseAll,
    copyPieces: () => {
      const count = actions.copy();
      if (count)
        toast(
          `${count} ${count === 1 ? 'piece' : 'pieces'} copied. Ctrl V puts ${count === 1 ? 'it' : 'them'} in at a playhead.`,
        );
    },
    pastePieces: () => act(actions.paste),
    inPlace: () => setInPlace(!inPlace),
    snapping: () => setSnapping(!snapping),
    fullScreen: () =>
      document.querySelector<HTMLButtonElement>('div:not([hidden]) > div > div > [data-fullscreen]')?.click(),
    ...(two
      ? {
          copyOver: () => sendOver(false),
          moveOver: () => sendOver(true),
          swap: () => {
            player.pause();
            setFocus(which === 'upper' ? 'lower' : 'upper');
          },
        }
      : {}),
    help: () => setHelp(true),
  });
  const strips = (own: typeof lower) => (
    <>
      {own.live.problem && (
        <p role="alert" className="mx-4 mb-1 flex items-center gap-3 rounded-md bg-raised px-3 py-2 text-shake">
          {own.live.problem}
          {own.live.instead && (
            <button
              type="button"
              className="whitespace-nowrap font-semibold text-lamp"
              onClick={() => act(() => own.live.edit(own.live.instead!.command))}
            >
              {own.live.instead.says}
            </button>
          )}
          <button
            type="button"
            className="ml-auto text-muted hover:text-text"
            aria-label="Put this message away"
            onClick={own.live.forgetProblem}
          >
            <X size={14} />
          </button>
        </p>
      )}
      <ReelStrips
        desk={own}
        compact={two}
        differences={differences}
        snaps={snapping ? snaps : noSnaps}
        inPlace={inPlace}
        act={act}
        onMoving={setMoving}
        onTitle={(id) => {
          setTitle(id);
          setTab('titles');
        }}
      />
    </>
  );
  const extent = (own: typeof lower) => (
    <span className="tabular whitespace-nowrap text-muted">{formatClock(own.total, true)}</span>
  );
  const edge = (own: Which) =>
    `flex min-h-0 flex-1 flex-col border-l-2 ${two && which === own ? 'border-l-lamp' : 'border-l-transparent'}`;
  const others = loaderData.reels.filter((each) => each.id !== reel.id);
  const aboveName = versionAbove
    ? `${versionAbove.name}, ${loaderData.versions.find((version) => version.number === upper.reel!.head)?.name ?? 'an earlier version'}`
    : upper.document?.name;
  return (
    <div className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        {two && (
          <section
            aria-label={`Above: ${aboveName ?? ''}`}
            data-focused={which === 'upper'}
            className={`${edge('upper')} border-b border-b-line`}
            onPointerDownCapture={() => setFocus('upper')}
          >
            <div className="flex h-11 shrink-0 items-center gap-3 px-4">
              <h2 className="truncate text-base font-semibold">{aboveName}</h2>
              {extent(upper)}
              <KeysHere here={which === 'upper'} />
              <span className="ml-auto">
                <IconButton
                  label="Put the reel above away"
                  onClick={() =>
                    setSearch((now) => {
                      now.delete('with');
                      return now;
                    })
                  }
                >
                  <X size={15} />
                </IconButton>
              </span>
            </div>
            {strips(upper)}
          </section>
        )}
        <section
          aria-label={`Reel: ${reel.document.name}`}
          data-focused={which === 'lower'}
          className={edge('lower')}
          onPointerDownCapture={() => setFocus('lower')}
        >
          <div className="flex h-12 shrink-0 items-center gap-3 px-4">
            <Link
              to={`/projects/${params.projectId}/reels`}
              className="text-muted hover:text-text"
              aria-label="All reels"
            >
              <ArrowLeft size={16} />
            </Link>
            <h1 className="sr-only">{reel.document.name}</h1>
            <div className="min-w-0 flex-1">
              <ReelName
                key={reel.document.name}
                name={reel.document.name}
                onRename={(name) => act(() => lower.live.edit({ type: 'rename', name }))}
              />
              <div className="flex items-center gap-1 truncate text-xs leading-4" data-testid="extent">
                {extent(lower)} · <FormatMenu desk={lower} act={act} />
                {loaderData.slots && (
                  <>
                    {' '}
                    ·{' '}
                    <Link
                      className="underline hover:text-text"
                      to={`/projects/${params.projectId}/music/${loaderData.slots}`}
                      title="This reel follows the slots of its montage; change them there"
                    >
                      its slots
                    </Link>
                  </>
                )}
              </div>
            </div>
            {two && <KeysHere here={which === 'lower'} />}
            <span className="flex items-center gap-1">
              {others.length > 0 && !two && (
                <select
                  aria-label="Another reel above"
                  className={`${inputLook} !h-[30px] max-w-32`}
                  value=""
                  onChange={(event) =>
                    setSearch((now) => {
                      now.set('with', event.target.value);
                      return now;
                    })
                  }
                >
                  <option value="" disabled>
                    Reel above…
                  </option>
                  {others.map((each) => (
                    <option key={each.id} value={each.id}>
                      {each.name}
                    </option>
                  ))}
                </select>
              )}
              <SnapMenu snaps={snaps} on={snapping} onToggle={setSnapping} onSet={setSnap} />
              <IconButton
                label={inPlace ? 'Trims leave everything in place' : 'Trims let what follows move'}
                keys="T"
                aria-pressed={inPlace}
                className={inPlace ? 'bg-line' : ''}
                onClick={() => setInPlace(!inPlace)}
              >
                <UnfoldHorizontal size={16} />
              </IconButton>
              <IconButton
                label="Take back"
                keys="Ctrl Z"
                disabled={!reel.canUndo && !upper.reel?.canUndo && !history.wordsWereLast()}
                onClick={step('undo')}
              >
                <Undo2 size={16} />
              </IconButton>
              <IconButton
                label="Do again"
                keys="Ctrl Shift Z"
                disabled={!reel.canRedo && !upper.reel?.canRedo && !history.canRedo()}
                onClick={step('redo')}
              >
                <Redo2 size={16} />
              </IconButton>
            </span>
            <TakeAway address={`/projects/${params.projectId}/reels/${reel.id}`} />
            <RenderMenu desk={lower} pace={loaderData.pace} />
          </div>
          {strips(lower)}
          {!two && <EndingBar desk={lower} act={act} />}
        </section>
      </main>
      <Column>
        {(['lower', 'upper'] as const).map((each) => {
          const own = each === 'upper' ? upper : lower;
          return (
            <div key={each} hidden={each !== which}>
              <ReelViewer
                player={own.player}
                rate={each === 'lower' ? rate : own.rate}
                size={own.document?.size ?? { width: 16, height: 9 }}
                testId={each === which ? 'reel-viewer' : 'other-viewer'}
                instead={moving && each === which ? <CutFrames desk={own} moving={moving} /> : undefined}
                place={own.segments.length ? `piece ${own.index + 1} of ${own.segments.length}` : 'empty'}
                onPrevious={() => own.pick(own.index - 1)}
                onNext={() => own.pick(own.index + 1)}
              />
            </div>
          );
        })}
        <Column.Tabs value={tab} onChange={setTab} tabs={tabs}>
          {tab === 'sound' ? (
            <SoundPanel key={desk.reel?.id ?? ''} desk={desk} items={items} act={act} />
          ) : tab === 'look' ? (
            <LookPanel desk={desk} projectId={params.projectId} tables={loaderData.tables} act={act} />
          ) : tab === 'frame' ? (
            <FramePanel
              desk={desk}
              framing={desk.clip?.framing ?? null}
              busy={framing.busy}
              problem={framing.problem}
              act={act}
              onFrame={(wanted, all) => void framing.frame(wanted, all)}
            />
          ) : tab === 'captions' ? (
            <ReelCaptions desk={desk} styles={loaderData.styles} projectId={params.projectId} act={act} />
          ) : tab === 'titles' ? (
            <TitlesPanel desk={desk} act={act} chosen={title} onChoose={setTitle} />
          ) : tab === 'versions' ? (
            <VersionsPanel
              desk={lower}
              versions={loaderData.versions}
              steps={steps.data ?? []}
              differences={search.has('with') ? differences : null}
            />
          ) : (
            <PiecePanel
              desk={desk}
              act={act}
              inPlace={inPlace}
              onCopy={two && !upper.reel?.readOnly ? () => sendOver(false) : undefined}
              onMove={two && !upper.reel?.readOnly ? () => sendOver(true) : undefined}
            />
          )}
        </Column.Tabs>
      </Column>
      <KeySheet
        open={help}
        onOpenChange={setHelp}
        sets={[
          ['In the reel', keySets.reel],
          ['With another reel above', keySets.twoReels],
        ]}
      />
    </div>
  );
}

const noSnaps: ReadonlySet<SnapKind> = new Set();
const modesKey = 'bright-reel.edit-modes';

/** How edits behave on this screen; kept in the browser. */
function useEditModes() {
  const [modes, setModes] = useState<{ snapping: boolean; snaps: SnapKind[]; inPlace: boolean }>({
    snapping: true,
    snaps: [...snapKinds],
    inPlace: false,
  });
  useEffect(() => {
    try {
      const kept = JSON.parse(localStorage.getItem(modesKey) ?? 'null') as typeof modes | null;
      if (kept) setModes((now) => ({ ...now, ...kept }));
    } catch {
      localStorage.removeItem(modesKey);
    }
  }, []);
  const change = (next: Partial<typeof modes>) =>
    setModes((now) => {
      const all = { ...now, ...next };
      localStorage.setItem(modesKey, JSON.stringify(all));
      return all;
    });
  const snaps = useMemo(() => new Set(modes.snaps), [modes.snaps]);
  return {
    snaps,
    snapping: modes.snapping,
    inPlace: modes.inPlace,
    setSnapping: (snapping: boolean) => change({ snapping }),
    setInPlace: (inPlace: boolean) => change({ inPlace }),
    setSnap: (kind: SnapKind, on: boolean) =>
      change({ snaps: on ? [...new Set([...modes.snaps, kind])] : modes.snaps.filter((each) => each !== kind) }),
  };
}

const snapNames: Record<SnapKind, string> = {
  playhead: 'the playhead',
  markers: 'markers',
  cuts: 'cuts of other tracks',
  beats: 'beats of the music',
  pauses: 'pauses in speech',
};

function SnapMenu({
  snaps,
  on,
  onToggle,
  onSet,
}: {
  snaps: ReadonlySet<SnapKind>;
  on: boolean;
  onToggle(on: boolean): void;
  onSet(kind: SnapKind, on: boolean): void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={on ? 'Edges snap' : 'Edges do not snap'}
        title="Snapping  N"
        className={`inline-flex h-7 w-7 items-center justify-center rounded-md hover:bg-line/60 ${on ? 'bg-line' : 'text-muted'}`}
      >
        <Magnet size={15} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-64 rounded-md border border-line bg-raised p-1 text-sm shadow-xl"
        >
          <Check label="Edges snap" checked={on} onChange={onToggle} />
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          {snapKinds.map((kind) => (
            <Check
              key={kind}
              label={`to ${snapNames[kind]}`}
              checked={snaps.has(kind)}
              onChange={(next) => onSet(kind, next)}
            />
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
const Check = ({ label, checked, onChange }: { label: string; checked: boolean; onChange(on: boolean): void }) => (
  <DropdownMenu.CheckboxItem
    checked={checked}
    onCheckedChange={onChange}
    onSelect={(event) => event.preventDefault()}
    className="flex cursor-default items-center gap-2 rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-line"
  >
    <span className="w-3">
      <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
    </span>
    {label}
  </DropdownMenu.CheckboxItem>
);

function ReelName({ name, onRename }: { name: string; onRename(name: string): void }) {
  return (
    <input
      aria-label="Name of the reel"
      defaultValue={name}
      maxLength={120}
      className="block w-full max-w-96 rounded bg-transparent text-base font-semibold leading-5 hover:bg-raised focus:bg-raised"
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      onBlur={(event) => event.target.value.trim() && event.target.value !== name && onRename(event.target.value)}
    />
  );
}
