import { Film, HelpCircle, List, Minus, Plus } from 'lucide-react';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useFetcher, useOutletContext, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { suggestedTarget, type Footage } from '#core/moments';
import { formatClock, framesPerSecond, overlap, rates, StringOut, type Range } from '#core/time';
import { listDecisions, loadPick } from '#data/decisions';
import { Landscape } from '../page/Landscape';
import { Legend } from '../page/Legend';
import { MixPanel } from '../page/MixPanel';
import { MomentsBar } from '../page/MomentsBar';
import { Page } from '../page/Page';
import { Viewer } from '../page/Viewer';
import { WhyPanel } from '../page/WhyPanel';
import { WordsPanel } from '../page/WordsPanel';
import { useChoice } from '../page/useChoice';
import { useDecisions } from '../page/useDecisions';
import { useReadings } from '../page/useReadings';
import { useFootagePlayer } from '../player/useFootagePlayer';
import { requireProject } from '../server/project.server';
import { IconButton } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { Column } from '../ui/Column';
import { useSaver } from '../ui/useSaver';
import { useShortcuts } from '../ui/useShortcuts';
import type { Settings } from '../workers/protocol';
import type { Route } from './+types/moments';
import type { ProjectData } from './project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const [decisions, pick] = await Promise.all([listDecisions(project.id), loadPick(project.id)]);
  return { decisions, pick };
}

export default function Moments({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const read = items.filter((item) => item.probe?.kind === 'video' && !item.problem);
  const key = read.map((item) => item.id).join();
  const footage = useReadings(read.map((item) => item.id), read.map((item) => String(item.readAt)).join());
  if (read.length === 0) return <NothingYet reading={items.some((item) => item.state)} />;
  if (!footage) return <p className="p-8 text-muted" role="status">Laying out the footage…</p>;
  return <MomentsScreen key={key} projectId={params.projectId} footage={footage} {...loaderData} />;
}

function NothingYet({ reading }: { reading: boolean }) {
  return (
    <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      <Film size={28} className="text-muted" aria-hidden />
      <h1 className="text-base font-semibold">{reading ? 'The first file is being read' : 'No footage to pick from yet'}</h1>
      <p className="max-w-sm text-muted">{reading ? 'Its moments light up here as soon as it is done. The time left is shown at the top.' : 'Bring in video on the Footage screen; its best moments light up here once it is read.'}</p>
      <Link to="../footage" relative="path" className="mt-2 text-lamp underline">To the footage</Link>
    </main>
  );
}

type Loaded = Route.ComponentProps['loaderData'];

function MomentsScreen({ projectId, footage, decisions: saved, pick }: Loaded & { projectId: string; footage: Footage[] }) {
  const { items, project } = useOutletContext<ProjectData>();
  const [search] = useSearchParams();
  const string = useMemo(() => new StringOut(footage.map(({ id, durationSeconds }) => ({ id, seconds: durationSeconds }))), [footage]);
  const [settings, setSettings] = useState<Settings>({ mix: pick.mix, limits: pick.limits, piece: pick.piece });
  const [target, setTarget] = useState(pick.targetSeconds ?? suggestedTarget(string.total));
  const [water, setWater] = useState<number | null>(pick.water);
  const { state: saveState, save } = useSaver(`/projects/${projectId}/decisions`);
  const { decisions, decide, undo, redo } = useDecisions(saved, save);
  const { chosen, why, choose, askWhy } = useChoice(footage);
  const player = useFootagePlayer(string, Number(search.get('at')) || 0);
  const [marked, setMarked] = useState<Range | null>(null);
  const [selected, setSelected] = useState<Range | null>(null);
  const [trimming, setTrimming] = useState<{ id: string; range: Range; edge: 'start' | 'end' } | null>(null);
  const [secondsPerLine, setSecondsPerLine] = useState(() => Number(search.get('line')) || (string.total > 1800 ? 120 : string.total > 300 ? 40 : 20));
  const [tab, setTab] = useState('why');
  const [legend, setLegend] = useState(false);
  const [help, setHelp] = useState(false);

  useEffect(() => choose({ settings, decisions, targetSeconds: target, water, columns: 1000 }), [choose, footage, settings, decisions, target, water]);
  const firstPick = useRef(true);
  useEffect(() => {
    if (firstPick.current) return void (firstPick.current = false);
    const timer = setTimeout(() => save({ kind: 'pick', value: { ...settings, targetSeconds: target, water } }), 300);
    return () => clearTimeout(timer);
  }, [settings, target, water, save]);
  useEffect(() => {
    if (player.playing) return;
    // Written past the router: the address is for reload and for sharing, and a navigation would load everything anew.
    const timer = setTimeout(() => {
      const address = new URL(window.location.href);
      address.searchParams.set('at', player.time.toFixed(2));
      address.searchParams.set('line', String(secondsPerLine));
      window.history.replaceState(window.history.state, '', address);
    }, 600);
    return () => clearTimeout(timer);
  }, [player.time, player.playing, secondsPerLine]);

  const moments = useMemo(() => chosen?.moments ?? [], [chosen]);
  const shown = useDeferredValue(chosen);
  const files = useMemo(() => footage.map((each) => ({
    id: each.id, name: items.find((item) => item.id === each.id)?.name ?? '', footage: each, sheets: items.find((item) => item.id === each.id)?.sheets ?? null,
    moments: (shown?.moments ?? []).filter((moment) => moment.media === each.id), flaws: shown?.flaws[each.id] ?? [],
  })), [footage, items, shown]);
  const inString = useCallback((media: string, range: Range): Range => ({ start: string.timeOf(media, range.start)!, end: string.timeOf(media, range.end)! }), [string]);
  const placed = useMemo(() => moments.map((moment) => inString(moment.media, moment)), [moments, inString]);

  /** What keys act on: the marked range, else the selected moment, else the one under the playhead. */
  const acting = marked ?? selected ?? placed.find((range) => player.time >= range.start && player.time < range.end) ?? null;
  useEffect(() => {
    const place = acting && string.locate(acting.start + 0.001);
    if (!place || !chosen) return;
    const offset = string.offsets[place.index]!;
    askWhy(place.id, acting.start - offset, Math.min(acting.end - offset, string.items[place.index]!.seconds));
  }, [acting?.start, acting?.end, chosen, askWhy, string]);

  const point = (time: number) => {
    player.seek(time);
    setMarked(null);
    setSelected(placed.find((range) => time >= range.start && time < range.end) ?? null);
  };
  const decideHere = (verdict: 'keep' | 'drop') => {
    const range = acting;
    const place = range && string.locate(range.start + 0.001);
    if (!range || !place) return;
    const offset = string.offsets[place.index]!;
    decide(place.id, range.start - offset, Math.min(range.end - offset, string.items[place.index]!.seconds), verdict);
    setSelected(range);
    setMarked(null);
  };
  const jump = (direction: 1 | -1) => {
    const starts = direction > 0 ? placed.find((range) => range.start > player.time + 0.05) : placed.findLast((range) => range.start < player.time - 0.05);
    if (!starts) return;
    player.seek(starts.start);
    setMarked(null);
    setSelected(starts);
  };
  const markShot = () => {
    const place = string.locate(player.time);
    const scene = place && footage[place.index]!.runs.find((run) => run.kind === 'scene' && place.seconds >= run.start && place.seconds < run.end);
    if (place) setMarked(inString(place.id, scene ?? { start: 0, end: string.items[place.index]!.seconds }));
  };
  const mark = (edge: 'start' | 'end') => {
    const place = string.locate(player.time);
    if (!place) return;
    const file = { start: string.offsets[place.index]!, end: string.offsets[place.index + 1]! };
    const other = marked && overlap(marked, file) > 0 ? marked : null;
    const range = edge === 'start' ? { start: player.time, end: other && other.end > player.time ? other.end : file.end } : { start: other && other.start < player.time ? other.start : file.start, end: player.time };
    if (range.end - range.start > 0.03) setMarked(range);
  };
  const trim = (edge: number, time: number, done: boolean) => {
    const index = placed.findIndex((range) => Math.abs(range.start - edge) < 1e-6 || Math.abs(range.end - edge) < 1e-6);
    const base = trimming ?? (index < 0 ? null : { id: moments[index]!.media, range: placed[index]!, edge: Math.abs(placed[index]!.start - edge) < 1e-6 ? ('start' as const) : ('end' as const) });
    if (!base) return;
    const first = string.timeOf(base.id, 0)!;
    const last = string.timeOf(base.id, Infinity)!;
    const held = Math.min(last, Math.max(first, time));
    const range = base.edge === 'start' ? { start: Math.min(held, base.range.end - 0.1), end: base.range.end } : { start: base.range.start, end: Math.max(held, base.range.start + 0.1) };
    player.seek(base.edge === 'start' ? range.start : Math.max(range.start, range.end - 0.02));
    setMarked(range);
    setTrimming(done ? null : base);
    if (!done) return;
    decide(base.id, range.start - first, range.end - first, 'keep');
    setSelected(range);
    setMarked(null);
  };

  const maker = useFetcher<{ problems: Record<string, string> }>();
  const making = maker.state !== 'idle';
  const makeReel = () => {
    if (making || !chosen || moments.length === 0) return;
    const pieces = moments.map(({ media, start, end, title }) => ({ media, start, end, name: title }));
    void maker.submit(JSON.stringify({ name: `${project.name}, ${formatClock(chosen.seconds)}`, pieces }), { method: 'post', action: `/projects/${projectId}/reels`, encType: 'application/json' });
  };
  const refusal = maker.data?.problems && Object.values(maker.data.problems)[0];
  useEffect(() => void (refusal && toast.error(refusal)), [refusal]);

  const under = string.locate(player.time);
  const rateOf = (id: string) => items.find((item) => item.id === id)?.probe?.rate ?? rates['30'];
  const frame = 1 / framesPerSecond(rateOf(string.locate(player.time)?.id ?? ''));
  useShortcuts({
    play: () => (player.playing ? player.pause() : player.play()),
    halt: player.pause,
    forward: () => player.play(player.playing && player.speed.current > 0 ? Math.min(8, player.speed.current * 2) : 1),
    back: () => player.play(player.playing && player.speed.current < 0 ? Math.max(-8, player.speed.current * 2) : -1),
    frameBack: () => player.seek(player.time - frame), frameOn: () => player.seek(player.time + frame),
    secondBack: () => player.seek(player.time - 1), secondOn: () => player.seek(player.time + 1),
    markIn: () => mark('start'), markOut: () => mark('end'), markShot, clearMarks: () => { setMarked(null); setSelected(null); },
    previous: () => jump(-1), next: () => jump(1), keep: () => decideHere('keep'), drop: () => decideHere('drop'),
    undo, redo, makeReel, legend: () => setLegend((now) => !now), help: () => setHelp(true),
  });

  const edges = useMemo(() => (trimming ? [] : placed.flatMap((range) => [range.start, range.end])), [placed, trimming]);
  const wells = decisions.filter((decision) => decision.verdict === 'drop');
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <main className="flex min-w-0 flex-1 flex-col">
          <div className="flex h-12 shrink-0 items-center gap-3 px-4">
            <h1 className="text-sm font-semibold">All footage</h1>
            <span className="text-muted">{footage.length} {footage.length === 1 ? 'file' : 'files'}, {formatClock(string.total)}</span>
            <span className="ml-auto text-muted">{secondsPerLine} s a line</span>
            <IconButton label="More seconds a line" onClick={() => setSecondsPerLine((now) => Math.min(600, now * 2))}><Minus size={15} /></IconButton>
            <IconButton label="Fewer seconds a line" onClick={() => setSecondsPerLine((now) => Math.max(10, now / 2))}><Plus size={15} /></IconButton>
            <IconButton label="What the traces mean" keys="G" aria-pressed={legend} onClick={() => setLegend(!legend)}><List size={15} /></IconButton>
            <IconButton label="All keys" keys="?" onClick={() => setHelp(true)}><HelpCircle size={15} /></IconButton>
          </div>
          {legend && <Legend />}
          <Page string={string} files={files} secondsPerLine={secondsPerLine} playhead={player.time} marked={marked} selected={selected} edges={edges}
            onHover={(time) => !player.playing && player.show(time ?? player.time)} onPoint={point} onMark={setMarked} onTrim={trim} />
        </main>
        <Column>
          <Viewer player={player} string={string} marked={acting} nameOf={(id) => items.find((item) => item.id === id)?.name ?? ''} rateOf={rateOf} onPrevious={() => jump(-1)} onNext={() => jump(1)} />
          <Column.Tabs value={tab} onChange={setTab} tabs={[['why', 'Why'], ['mix', 'Mix'], ['words', 'Words']]}>
            {tab === 'why' ? (
              <WhyPanel why={acting ? why : null} mix={settings.mix} water={chosen?.water ?? 0} onKeep={() => decideHere('keep')} onDrop={() => decideHere('drop')} />
            ) : tab === 'mix' ? (
              <MixPanel settings={settings} onChange={setSettings} />
            ) : under && (
              <WordsPanel key={under.id} media={under.id} name={items.find((item) => item.id === under.id)?.name ?? ''} seconds={under.seconds} onSeek={(seconds) => point(string.timeOf(under.id, seconds)!)} />
            )}
          </Column.Tabs>
        </Column>
      </div>
      <footer className="flex h-[116px] shrink-0 items-stretch gap-5 border-t border-line px-4 pt-2" aria-label="Score and waterline">
        <Landscape string={string} landscape={chosen?.landscape ?? new Float32Array()} water={chosen?.water ?? 0} moments={moments} wells={wells}
          seconds={chosen?.seconds ?? 0} targetSeconds={target} onWater={setWater} onPoint={point} />
        <MomentsBar moments={chosen?.moments ?? null} drops={wells.length} targetSeconds={target} suggested={suggestedTarget(string.total)} saveState={saveState} making={making}
          onTarget={(seconds) => { setTarget(seconds); setWater(null); }} onMake={makeReel} />
      </footer>
      <KeySheet open={help} onOpenChange={setHelp} names={['play', 'back', 'halt', 'forward', 'frameBack', 'frameOn', 'secondBack', 'secondOn', 'markIn', 'markOut', 'markShot', 'clearMarks', 'previous', 'next', 'keep', 'drop', 'undo', 'redo', 'makeReel', 'legend', 'help']} />
    </>
  );
}
