import { ArrowLeft, ArrowRight, HardDriveDownload, Pause, Play, Redo2, Scissors, SkipBack, SkipForward, Trash2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { data, Link, redirect, useFetcher, useOutletContext } from 'react-router';
import { randomUUID } from 'node:crypto';
import { readerVersion } from '#core/readings';
import { applyCommand, mainTrack, planSegments, reelFrames, segmentAt, type ReelCommand, type Source } from '#core/reel';
import { formatClock, formatTimecode, framesPerSecond, framesToSeconds, secondsToFrames } from '#core/time';
import { listMedia } from '#data/media';
import { deleteReel, openReel, saveRevision, stepRevision } from '#data/reels';
import { createRender, setRender } from '#data/tasks';
import { enqueueRender } from '#jobs/queue';
import { ReelEditDto, RenderDto } from '../forms/dto';
import { useReelPlayer } from '../player/useReelPlayer';
import { ExactFrame } from '../reel/ExactFrame';
import { ReelStrips } from '../reel/ReelStrips';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import { Column } from '../ui/Column';
import { Button, IconButton, inputLook } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { useShortcuts } from '../ui/useShortcuts';
import type { Route } from './+types/reel';
import type { ProjectData } from './project';

async function requireReel(projectId: string, reelId: string) {
  const project = await requireProject(projectId);
  const reel = await openReel(reelId);
  if (!reel || reel.projectId !== project.id) throw data('This reel does not exist, or it was deleted.', { status: 404 });
  return reel;
}

export async function loader({ params }: Route.LoaderArgs) {
  return { reel: await requireReel(params.projectId, params.reelId) };
}

export async function action({ params, request }: Route.ActionArgs) {
  const reel = await requireReel(params.projectId, params.reelId);
  const form = await request.formData();
  const intent = form.get('intent');
  if (intent === 'delete') {
    await deleteReel(reel.projectId, reel.id);
    return redirect(`/projects/${reel.projectId}/reels`);
  }
  if (intent === 'render') return startRender(reel, form);
  const checked = check(ReelEditDto, form);
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const { head, intent: kind, ...rest } = checked.value;
  if (head !== reel.head) return data({ problem: 'This reel was changed in another window. It is shown anew; please do that again.' }, { status: 409 });
  if (kind === 'undo' || kind === 'redo') return (await stepRevision(reel.id, kind)) ? { problem: null } : data({ problem: kind === 'undo' ? 'There is nothing to take back.' : 'There is nothing to do again.' }, { status: 422 });
  const command = { ...rest, type: kind, ...(kind === 'split' ? { newId: randomUUID() } : {}) } as unknown as ReelCommand;
  const result = applyCommand(reel.document, command, await sourcesOf(reel.projectId));
  if (!result.ok) return data({ problem: result.reason }, { status: 422 });
  const saved = await saveRevision(reel.id, head, result.reel, command);
  return saved ? { problem: null } : data({ problem: 'This reel was changed in another window. It is shown anew; please do that again.' }, { status: 409 });
}

async function sourcesOf(projectId: string): Promise<Map<string, Source>> {
  const items = (await listMedia(projectId, readerVersion)).filter((item) => item.probe);
  return new Map(items.map((item) => [item.id, { id: item.id, name: item.name, durationSeconds: item.probe!.durationSeconds, photo: item.probe!.kind === 'photo' }]));
}

type OpenReelData = Awaited<ReturnType<typeof requireReel>>;

async function startRender(reel: OpenReelData, form: FormData) {
  const checked = check(RenderDto, form);
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const { document } = reel;
  if (reelFrames(document) === 0) return data({ problem: 'The reel is empty; there is nothing to render.' }, { status: 422 });
  const { width, height } = document.size;
  const scale = checked.value.size === '1080p' ? 1080 / Math.min(width, height) : 1;
  const even = (value: number) => Math.round((value * scale) / 2) * 2;
  const seconds = framesToSeconds(reelFrames(document), document.rate);
  const renderId = await createRender({ projectId: reel.projectId, reelId: reel.id, revision: reel.head, name: document.name, width: even(width), height: even(height), seconds });
  const task = await enqueueRender(reel.projectId, renderId, document.name, seconds);
  await setRender(renderId, { taskId: task.id });
  return redirect(`/projects/${reel.projectId}/outputs`);
}

export default function ReelScreen({ loaderData, params }: Route.ComponentProps) {
  const { reel } = loaderData;
  const { items } = useOutletContext<ProjectData>();
  const fetcher = useFetcher<{ problem: string | null }>();
  const document = reel.document;
  const { rate } = document;
  const segments = useMemo(() => planSegments(document), [document]);
  const itemOf = useCallback((media: string) => items.find((item) => item.id === media) ?? null, [items]);
  const sourceOf = useCallback((media: string) => {
    const item = itemOf(media);
    return item?.probe ? { address: `/media/${media}`, photo: item.probe.kind === 'photo' } : null;
  }, [itemOf]);
  const player = useReelPlayer(segments, sourceOf);
  const [selectedId, setSelectedId] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const playIndex = segmentAt(segments, player.time);
  const selected = segments.findIndex((segment) => segment.id === selectedId);
  const index = selected >= 0 ? selected : playIndex;
  const segment = segments[index];
  const clip = segment && mainTrack(document).items[index];
  const total = framesToSeconds(reelFrames(document), rate);
  const edit = useEditQueue(fetcher, reel.head);
  const pick = (at: number, seek = true) => {
    const target = segments[Math.max(0, Math.min(segments.length - 1, at))];
    if (!target) return;
    setSelectedId(target.id);
    if (seek) player.seek(target.startSeconds);
  };
  useEffect(() => {
    if (player.playing) setSelectedId(segments[playIndex]?.id ?? null);
  }, [player.playing, playIndex, segments]);
  const takeOut = () => segment && edit({ intent: 'remove', clip: segment.id });
  const split = () => {
    const under = segments[playIndex];
    if (under) edit({ intent: 'split', clip: under.id, at: secondsToFrames(player.time - under.startSeconds, rate) });
  };
  const step = framesToSeconds(1, rate);
  useShortcuts({
    play: () => (player.playing ? player.pause() : player.play()), halt: player.pause,
    frameBack: () => player.seek(player.time - step), frameOn: () => player.seek(player.time + step), secondBack: () => player.seek(player.time - 1), secondOn: () => player.seek(player.time + 1),
    previous: () => pick(index - 1), next: () => pick(index + 1), undo: () => edit({ intent: 'undo' }), redo: () => edit({ intent: 'redo' }), split, takeOut, help: () => setHelp(true),
  });
  const problem = fetcher.state === 'idle' ? fetcher.data?.problem : null;
  return (
    <div className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        <div className="flex h-12 shrink-0 items-center gap-3 px-4">
          <Link to={`/projects/${params.projectId}/reels`} className="text-muted hover:text-text" aria-label="All reels"><ArrowLeft size={16} /></Link>
          <ReelName key={document.name} name={document.name} onRename={(name) => edit({ intent: 'rename', name })} />
          <span className="tabular text-muted">{formatClock(total, true)} · {Number(framesPerSecond(rate).toFixed(2))} fps · {document.size.width}×{document.size.height}</span>
          <span className="ml-auto flex items-center gap-1">
            <IconButton label="Take back" keys="Ctrl Z" disabled={!reel.canUndo} onClick={() => edit({ intent: 'undo' })}><Undo2 size={16} /></IconButton>
            <IconButton label="Do again" keys="Ctrl Shift Z" disabled={!reel.canRedo} onClick={() => edit({ intent: 'redo' })}><Redo2 size={16} /></IconButton>
          </span>
          <RenderButton size={document.size} disabled={segments.length === 0} />
        </div>
        {problem && <p role="alert" className="mx-4 mb-1 rounded-md bg-raised px-3 py-2 text-shake">{problem}</p>}
        <ReelStrips segments={segments} rate={rate} itemOf={itemOf} selectedId={segment?.id ?? null} time={player.time} onPick={(at, seconds) => { setSelectedId(segments[at]!.id); player.seek(seconds); }} onMove={(id, to) => edit({ intent: 'move', clip: id, to })} />
      </main>
      <Column>
        <div className="shrink-0 border-b border-line">
          <div className="relative aspect-video bg-black" data-testid="reel-viewer">
            <video ref={player.elements.first} className="absolute inset-0 h-full w-full" playsInline preload="auto" aria-label="Reel" />
            <video ref={player.elements.second} className="absolute inset-0 h-full w-full" playsInline preload="auto" aria-hidden />
            <img ref={player.elements.photo} className="absolute inset-0 h-full w-full bg-black object-contain" style={{ visibility: 'hidden' }} alt="" />
            <span className="tabular absolute bottom-2 left-2.5 rounded bg-black/70 px-1.5 py-0.5 text-[13px]" data-testid="timecode">{formatTimecode(secondsToFrames(player.time, rate), rate)}</span>
          </div>
          <div className="flex h-9 items-center gap-1 px-2.5">
            <IconButton label="Piece before" keys="[" onClick={() => pick(index - 1)}><SkipBack size={15} /></IconButton>
            <IconButton label={player.playing ? 'Pause' : 'Play'} keys="Space" onClick={() => (player.playing ? player.pause() : player.play())}>{player.playing ? <Pause size={16} /> : <Play size={16} />}</IconButton>
            <IconButton label="Piece after" keys="]" onClick={() => pick(index + 1)}><SkipForward size={15} /></IconButton>
            <span className="tabular ml-auto text-muted">{segments.length ? `piece ${index + 1} of ${segments.length}` : 'empty'}</span>
          </div>
        </div>
        <Column.Tabs value="piece" onChange={() => undefined} tabs={[['piece', 'Piece']]}>
          {segment && clip ? (
            <div className="flex min-h-full flex-col">
              <h2 className="text-base font-semibold">{segment.name}</h2>
              <p className="mb-3 text-muted">{itemOf(segment.media)?.name ?? 'This footage is missing'} · <span className="tabular">{formatClock(segment.sourceSeconds, true)} – {formatClock(segment.sourceSeconds + segment.endSeconds - segment.startSeconds, true)}</span> · {framesToSeconds(clip.frames, rate).toFixed(1)} s</p>
              <div className="grid grid-cols-2 gap-2">
                <ExactFrame label="first frame" source={sourceOf(segment.media)} seconds={segment.sourceSeconds} />
                <ExactFrame label="last frame" source={sourceOf(segment.media)} seconds={segment.sourceSeconds + framesToSeconds(clip.frames - 1, rate)} />
              </div>
              <Trim label="Start" edge="in" onTrim={(frames) => edit({ intent: 'trim', clip: clip.id, edge: 'in', frames })} />
              <Trim label="End" edge="out" onTrim={(frames) => edit({ intent: 'trim', clip: clip.id, edge: 'out', frames })} />
              <div className="mt-3 flex items-center gap-2">
                <span className="w-14">Order</span>
                <IconButton label="One place earlier" disabled={index === 0} onClick={() => edit({ intent: 'move', clip: clip.id, to: index - 1 })}><ArrowLeft size={15} /></IconButton>
                <IconButton label="One place later" disabled={index === segments.length - 1} onClick={() => edit({ intent: 'move', clip: clip.id, to: index + 1 })}><ArrowRight size={15} /></IconButton>
              </div>
              <div className="sticky -bottom-3 mt-auto flex gap-2 bg-[#12191f] pb-3 pt-2">
                <Button keys="S" onClick={split}><Scissors size={15} aria-hidden /> Split</Button>
                <Button keys="Del" onClick={takeOut}><Trash2 size={15} aria-hidden /> Take out</Button>
              </div>
            </div>
          ) : <p className="text-muted">The reel is empty. Take back the last step, or make a new one from the moments.</p>}
        </Column.Tabs>
      </Column>
      <KeySheet open={help} onOpenChange={setHelp} names={['play', 'halt', 'frameBack', 'frameOn', 'secondBack', 'secondOn', 'previous', 'next', 'split', 'takeOut', 'undo', 'redo', 'help']} />
    </div>
  );
}

/**
 * Sends edits one after another, each on the version that the one before it made, however fast the keys come. A
 * refused edit drops what waits behind it: it was meant for another reel.
 */
function useEditQueue(fetcher: ReturnType<typeof useFetcher<{ problem: string | null }>>, head: number) {
  const waiting = useRef<Record<string, string | number>[]>([]);
  const sending = useRef(false);
  const before = useRef(fetcher.state);
  const { state, data: answer, submit } = fetcher;
  const send = useCallback((command: Record<string, string | number>) => {
    sending.current = true;
    void submit({ ...command, head }, { method: 'post' });
  }, [submit, head]);
  useEffect(() => {
    const ended = before.current !== 'idle' && state === 'idle';
    before.current = state;
    if (!ended) return;
    sending.current = false;
    if (answer?.problem) waiting.current = [];
    const next = waiting.current.shift();
    if (next) send(next);
  }, [state, answer, send]);
  return (command: Record<string, string | number>) => {
    if (sending.current) waiting.current.push(command);
    else send(command);
  };
}

function ReelName({ name, onRename }: { name: string; onRename(name: string): void }) {
  return (
    <input aria-label="Name of the reel" defaultValue={name} maxLength={120} className="min-w-0 max-w-72 flex-1 rounded bg-transparent text-base font-semibold hover:bg-raised focus:bg-raised"
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()} onBlur={(event) => event.target.value.trim() && event.target.value !== name && onRename(event.target.value)} />
  );
}

const steps = [-10, -1, 1, 10];

function Trim({ label, edge, onTrim }: { label: string; edge: 'in' | 'out'; onTrim(frames: number): void }) {
  return (
    <div className="mt-3 flex items-center gap-2">
      <span className="w-14">{label}</span>
      {steps.map((frames) => (
        <Button key={frames} className="tabular !px-2" aria-label={`${edge === 'in' ? 'Start' : 'End'} ${Math.abs(frames)} ${Math.abs(frames) === 1 ? 'frame' : 'frames'} ${frames < 0 ? 'earlier' : 'later'}`} onClick={() => onTrim(frames)}>{frames > 0 ? `+${frames}` : frames}</Button>
      ))}
      <span className="text-xs text-muted">frames</span>
    </div>
  );
}

function RenderButton({ size, disabled }: { size: { width: number; height: number }; disabled: boolean }) {
  const fetcher = useFetcher<{ problem: string | null }>();
  return (
    <fetcher.Form method="post" className="flex items-center gap-2">
      <input type="hidden" name="intent" value="render" />
      <select name="size" aria-label="Size of the render" className={`${inputLook} !h-[30px]`} defaultValue="source">
        <option value="source">{size.width}×{size.height}, as filmed</option>
        {Math.min(size.width, size.height) !== 1080 && <option value="1080p">1080p</option>}
      </select>
      <Button type="submit" look="lamp" disabled={disabled || fetcher.state !== 'idle'}><HardDriveDownload size={15} aria-hidden /> Render</Button>
    </fetcher.Form>
  );
}
