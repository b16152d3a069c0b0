import { ArrowLeft, Redo2, RefreshCw, Undo2, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { Link, useFetcher, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { StringOut, formatClock, framesToSeconds, type Range } from '#core/time';
import { mainTrack } from '#core/reel';
import { shortParts, partNames, type Thumb } from '#core/shorts';
import { keySets } from '../keys';
import type { LineFile } from '../page/drawLine';
import { Page } from '../page/Page';
import { useReadings } from '../page/useReadings';
import { useReelDesk } from '../reel/useReelDesk';
import type { Item } from '#usecases/projects';
import type { ShortSetData } from '#usecases/shorts';
import { Column } from '../ui/Column';
import { Button, IconButton, inputLook } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { useShortcuts } from '../ui/useShortcuts';
import { CaptionsPanel, sourceSecond } from './CaptionsPanel';
import { FramePanel } from './FramePanel';
import { RenderShorts } from './RenderShorts';
import { ShortCards } from './ShortCards';
import { ShortViewer } from './ShortViewer';
import { StylePanel } from './StylePanel';
import { useOneHistory } from '../reel/useOneHistory';
import { useFraming } from './useFraming';
import { WhyShort } from './WhyShort';
import { WishForm } from './WishForm';

interface ShortsScreenProps {
  set: ShortSetData;
  items: Item[];
  projectId: string;
}

const secondsPerLine = 40;
const tabs: [string, string][] = [
  ['why', 'Why'],
  ['captions', 'Captions'],
  ['frame', 'Frame'],
  ['style', 'Style'],
];
type Filter = '' | 'praised' | (typeof shortParts)[number];

/** The shorts of a recording: cards on top, where the chosen one comes from below, and what can be changed about it at the right. */
export function ShortsScreen({ set, items, projectId }: ShortsScreenProps) {
  const address = `/projects/${projectId}/shorts/${set.id}`;
  const [search, setSearch] = useSearchParams();
  const [filter, setFilter] = useState<Filter>('');
  const [tab, setTab] = useState('why');
  const [help, setHelp] = useState(false);
  const [marked, setMarked] = useState<Range | null>(null);
  const [look, setLook] = useState<number | null>(null);
  const sender = useFetcher<{ problem: string | null }>();
  const item = items.find((each) => each.id === set.mediaId) ?? null;
  // What a filter asks for: more of it than the shorts have in the mean.
  const shorts = useMemo(
    () =>
      set.shorts.filter(
        (short) =>
          filter === '' ||
          (filter === 'praised'
            ? set.thumbs[short.id] === 'up'
            : short.parts[filter] >= set.shorts.reduce((sum, each) => sum + each.parts[filter], 0) / set.shorts.length),
      ),
    [set, filter],
  );
  const short = shorts.find((each) => each.id === search.get('short')) ?? shorts[0] ?? set.shorts[0] ?? null;
  const desk = useReelDesk(short?.reel ?? null, items);
  const { player, document: reel, live } = desk;
  const framing = useFraming(desk);
  const history = useOneHistory(desk);
  const act = (edit: () => boolean) => {
    edit();
  };
  const choose = (id: string) => {
    player.pause();
    setMarked(null);
    setLook(null);
    setSearch(
      (now) => {
        now.set('short', id);
        return now;
      },
      { replace: true, preventScrollReset: true },
    );
  };
  const step = (by: number) => {
    const next = shorts[(short ? shorts.indexOf(short) : 0) + by];
    if (next) choose(next.id);
  };
  const send = (body: object) =>
    void sender.submit(body as never, { method: 'post', action: address, encType: 'application/json' });
  /** Shorts that were put away on this visit, the last one at the end. */
  const putAway = useRef<{ id: string; at: number }[]>([]);
  const bringBack = (id: string) => {
    putAway.current = putAway.current.filter((each) => each.id !== id);
    send({ intent: 'thumb', id, thumb: null });
  };
  const thumb = (id: string, value: Thumb | null) => {
    send({ intent: 'thumb', id, thumb: value });
    if (value !== 'down') return;
    putAway.current.push({ id, at: nowMilliseconds() });
    toast(set.more > 0 ? 'Put away; the next best comes up.' : 'Put away.', {
      action: { label: 'Take back', onClick: () => bringBack(id) },
    });
  };
  const lastPutAway = () => putAway.current.at(-1) ?? null;
  /** What was done last is taken back first, also a short that was put away. */
  const undo = () => {
    const last = lastPutAway();
    if (last && last.at >= Math.max(live.lastEdit(), desk.spoken.lastChange())) bringBack(last.id);
    else history.undo();
  };
  const move = (id: string, before: string) => {
    const ids = set.shorts.map((each) => each.id).filter((each) => each !== id);
    const at = before ? ids.indexOf(before) : ids.length;
    send({ intent: 'order', order: [...ids.slice(0, at), id, ...ids.slice(at)] });
  };
  const { seek } = player;
  useEffect(() => seek(0), [seek, short?.id]);

  const media = useMemo(() => (item ? [item.id] : []), [item]);
  const readings = useReadings(media);
  const footage = readings?.[0] ?? null;
  const pieces = useMemo(
    () =>
      reel
        ? mainTrack(reel).items.flatMap((each) =>
            each.kind === 'clip' && each.media === set.mediaId
              ? [
                  {
                    id: each.id,
                    start: framesToSeconds(each.sourceIn, reel.rate),
                    end: framesToSeconds(each.sourceIn + (each.frames * (each.speed ?? 100)) / 100, reel.rate),
                  },
                ]
              : [],
          )
        : [],
    [reel, set.mediaId],
  );
  const string = useMemo(
    () => new StringOut(footage ? [{ id: footage.id, seconds: footage.durationSeconds }] : []),
    [footage],
  );
  const files = useMemo(
    (): LineFile[] =>
      footage && item
        ? [
            {
              id: item.id,
              name: item.name,
              footage,
              sheets: item.sheets ?? null,
              flaws: [],
              used: [],
              found: [],
              markers: [],
              moments: pieces.map((piece) => ({
                media: item.id,
                start: piece.start,
                end: piece.end,
                score: 0,
                shares: { people: 0, talk: 0, action: 0, camera: 0, sound: 0, picture: 0 },
                kept: 'water' as const,
              })),
            },
          ]
        : [],
    [footage, item, pieces],
  );
  const edges = useMemo(() => pieces.flatMap((piece) => [piece.start, piece.end]), [pieces]);
  const sourceAt = sourceSecond(desk);
  const playhead = look ?? sourceAt(player.time);
  const selected = pieces.find((piece) => piece.id === desk.clip?.id) ?? null;
  const toSource = (seconds: number) => {
    const piece = pieces.find((each) => seconds >= each.start && seconds < each.end);
    const segment = piece && desk.segments.find((each) => each.id === piece.id);
    setLook(segment ? null : seconds);
    if (segment) {
      desk.setSelectedId(segment.id);
      player.seek(segment.startSeconds + (seconds - piece.start) / segment.speed);
    }
  };
  useEffect(() => {
    if (player.playing) setLook(null);
  }, [player.playing]);
  const trim = (edge: number, to: number) => {
    if (!reel) return;
    const piece = pieces.find((each) => Math.abs(each.start - edge) < 1e-6 || Math.abs(each.end - edge) < 1e-6);
    if (!piece) return;
    const atStart = Math.abs(piece.start - edge) < 1e-6;
    const frames = Math.round(((to - edge) * reel.rate.num) / reel.rate.den);
    if (frames) live.edit({ type: 'trim', clip: piece.id, edge: atStart ? 'in' : 'out', frames });
  };
  /** A marked stretch of the recording becomes a piece, at its place in time. */
  const addMarked = () => {
    if (!reel || !marked || !item) return;
    const after = pieces.filter((piece) => piece.start < marked.start).length;
    const at = mainTrack(reel)
      .items.slice(0, after)
      .reduce((sum, each) => sum + each.frames, 0);
    const start = Math.round((marked.start * reel.rate.num) / reel.rate.den);
    const id = crypto.randomUUID();
    const done = live.edit({
      type: 'put',
      how: 'insert',
      at,
      clips: [
        {
          id,
          media: item.id,
          name: item.name.replace(/\.\w+$/, ''),
          sourceIn: start,
          frames: Math.max(2, Math.round((marked.end * reel.rate.num) / reel.rate.den) - start),
        },
      ],
    });
    if (done) {
      setMarked(null);
      desk.setSelectedId(id);
      setFramePending(id);
    }
  };
  const [framePending, setFramePending] = useState<string | null>(null);
  const chosenId = desk.clip?.id ?? null;
  const frameAdded = useEffectEvent(() => void framing.frame({}));
  // A piece that was added is framed like the others as soon as it is there.
  useEffect(() => {
    if (!framePending || chosenId !== framePending) return;
    setFramePending(null);
    frameAdded();
  }, [framePending, chosenId]);

  useShortcuts({
    play: () => (player.playing ? player.pause() : player.play()),
    frameBack: () => player.seek(player.time - desk.step),
    frameOn: () => player.seek(player.time + desk.step),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    toStart: () => player.seek(0),
    toEnd: () => player.seek(desk.total),
    previous: () => step(-1),
    next: () => step(1),
    thumbUp: () => short && thumb(short.id, set.thumbs[short.id] === 'up' ? null : 'up'),
    thumbDown: () => short && thumb(short.id, 'down'),
    takeOut: () => act(desk.actions.takeOut),
    addMarked,
    undo,
    redo: history.redo,
    panelWhyShort: () => setTab('why'),
    panelCaptions: () => setTab('captions'),
    panelFrame: () => setTab('frame'),
    panelStyle: () => setTab('style'),
    fullScreen: () => document.querySelector<HTMLButtonElement>('[data-fullscreen]')?.click(),
    help: () => setHelp(true),
  });
  const name = item?.name.replace(/\.\w+$/, '') ?? 'a recording that is gone';
  const here = desk.clip?.framing ?? null;
  const problem = live.problem ?? (sender.state === 'idle' ? (sender.data?.problem ?? null) : null);
  return (
    <div className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        <div className="flex h-12 shrink-0 items-center gap-3 px-4">
          <Link to={`/projects/${projectId}/shorts`} className="text-muted hover:text-text" aria-label="All shorts">
            <ArrowLeft size={16} />
          </Link>
          <h1 className="truncate text-base font-semibold">Shorts from “{name}”</h1>
          <span className="tabular whitespace-nowrap text-muted" data-testid="shorts-count">
            {shorts.length} of{' '}
            {set.shorts.length < set.wish.count && shorts.length === set.shorts.length
              ? `${set.wish.count} wished`
              : set.shorts.length}{' '}
            · {set.wish.minSeconds} to {set.wish.maxSeconds} s · {set.wish.shape}
          </span>
          <span className="ml-auto flex items-center gap-2">
            <select
              aria-label="Show only"
              className={`${inputLook} !h-[30px] w-28`}
              value={filter}
              onChange={(event) => {
                event.currentTarget.blur();
                setFilter(event.target.value as Filter);
              }}
            >
              <option value="">all of them</option>
              <option value="praised">praised</option>
              {shortParts.map((part) => (
                <option key={part} value={part}>
                  more {partNames[part].toLowerCase()}
                </option>
              ))}
            </select>
            <IconButton
              label="Take back"
              keys="Ctrl Z"
              disabled={!live.reel?.canUndo && desk.spoken.lastChange() === 0 && lastPutAway() === null}
              onClick={undo}
            >
              <Undo2 size={16} />
            </IconButton>
            <IconButton label="Do again" keys="Ctrl Shift Z" disabled={!history.canRedo()} onClick={history.redo}>
              <Redo2 size={16} />
            </IconButton>
            {set.putAway.length > 0 && <PutAway shorts={set.putAway} onBack={bringBack} />}
            <FindAgain set={set} items={items} projectId={projectId} />
            <RenderShorts shorts={set.shorts} chosen={short?.id ?? ''} address={address} projectId={projectId} />
          </span>
        </div>
        {problem && (
          <p role="alert" className="mx-4 mb-1 flex items-center rounded-md bg-raised px-3 py-2 text-shake">
            {problem}
            <button
              type="button"
              className="ml-auto text-muted hover:text-text"
              aria-label="Put this message away"
              onClick={live.forgetProblem}
            >
              <X size={14} />
            </button>
          </p>
        )}
        {shorts.length === 0 ? (
          <p className="px-4 py-6 text-muted">
            {set.shorts.length === 0
              ? 'All of them were put away. “Put away” brings each back; “Find again” looks anew.'
              : 'None of them is like that. Show all of them again at the top.'}
          </p>
        ) : (
          <ShortCards
            shorts={shorts}
            chosen={short?.id ?? ''}
            live={reel}
            item={item}
            words={desk.spoken.words.get(set.mediaId)?.words ?? set.words}
            thumbs={set.thumbs}
            projectId={projectId}
            onChoose={choose}
            onThumb={thumb}
            onMove={move}
          />
        )}
        <div className="flex h-9 shrink-0 items-center gap-3 border-t border-line px-4">
          <h2 className="truncate text-sm font-semibold">
            {reel ? `Where “${reel.name}” comes from` : 'Where it comes from'}
          </h2>
          {marked ? (
            <>
              <span className="tabular text-muted">
                {formatClock(marked.start, true)} to {formatClock(marked.end, true)}
              </span>
              <Button className="!h-7" keys="Enter" onClick={addMarked}>
                Add it to the short
              </Button>
              <Button look="quiet" className="!h-7" onClick={() => setMarked(null)}>
                Clear
              </Button>
            </>
          ) : (
            <span className="truncate text-xs text-muted">
              Drag to mark a stretch and add it; drag an edge to make a piece longer or shorter.
            </span>
          )}
        </div>
        {item && footage ? (
          <Page
            string={string}
            files={files}
            secondsPerLine={secondsPerLine}
            playhead={playhead}
            marked={marked}
            selected={selected}
            edges={edges}
            onHover={() => undefined}
            onPoint={toSource}
            onMark={setMarked}
            onTrim={(edge, time, done) => done && trim(edge, time)}
            onPinch={() => undefined}
          />
        ) : (
          <p className="px-4 py-3 text-muted">
            {item
              ? 'The readings are on their way.'
              : 'The recording was taken out of the project; the shorts stay, but cannot be played.'}
          </p>
        )}
      </main>
      <Column>
        <ShortViewer
          desk={desk}
          follows={
            framing.busy
              ? 'framing…'
              : here
                ? here.keys.length
                  ? 'follows, by hand'
                  : here.subject === 'fixed'
                    ? 'stays where it is'
                    : `follows ${here.follows ?? 'what stands out'}`
                : (desk.clip?.fit ?? reel?.fit) === 'fill'
                  ? 'the middle'
                  : 'the whole picture'
          }
          onPrevious={() => step(-1)}
          onNext={() => step(1)}
          onDrag={(middle) => void framing.put(sourceAt(player.time), middle)}
        />
        <Column.Tabs value={tab} onChange={setTab} tabs={tabs}>
          {!short ? (
            <p className="text-muted">Choose a short.</p>
          ) : tab === 'captions' ? (
            <CaptionsPanel key={short.id} desk={desk} sourceAt={sourceAt} onStyle={() => setTab('style')} />
          ) : tab === 'frame' ? (
            <FramePanel
              key={short.id}
              desk={desk}
              framing={here}
              busy={framing.busy}
              problem={framing.problem}
              act={act}
              onFrame={(wanted, all) => void framing.frame(wanted, all)}
            />
          ) : tab === 'style' ? (
            <StylePanel key={short.id} desk={desk} styles={set.styles} projectId={projectId} act={act} />
          ) : (
            <WhyShort key={short.id} short={short} set={set} desk={desk} act={act} />
          )}
        </Column.Tabs>
      </Column>
      <KeySheet open={help} onOpenChange={setHelp} sets={[['Shorts', keySets.shorts]]} />
    </div>
  );
}

/** When something was done, to compare with the times of edits. */
const nowMilliseconds = () => Date.now();

/** Shorts that were put away, each to be brought back. */
function PutAway({ shorts, onBack }: { shorts: readonly { id: string; title: string }[]; onBack(id: string): void }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>{shorts.length} put away</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 max-h-[60vh] w-80 overflow-y-auto rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <h2 className="text-xs text-muted">Put away</h2>
          <ul>
            {shorts.map(({ id, title }) => (
              <li key={id} className="flex items-center gap-3 py-1">
                <span className="truncate">{title}</span>
                <button type="button" className="ml-auto shrink-0 underline hover:text-text" onClick={() => onBack(id)}>
                  Bring back
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function FindAgain({ set, items, projectId }: { set: ShortSetData; items: Item[]; projectId: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>
          <RefreshCw size={15} aria-hidden /> Find again
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 max-h-[80vh] w-[420px] overflow-y-auto rounded-md border border-line bg-raised p-4 text-sm shadow-xl"
        >
          <p className="mb-3 text-muted">Looks anew, with other wishes. These shorts stay as they are.</p>
          <WishForm
            items={items}
            styles={set.styles}
            problems={{}}
            media={set.mediaId}
            before={set.wish}
            action={`/projects/${projectId}/shorts`}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
