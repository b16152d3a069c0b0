import { useMemo, useState } from 'react';
import { X } from 'lucide-react';
import { StringOut, formatClock } from '#core/time';
import type { Item } from '#usecases/projects';
import type { ShortSetData } from '#usecases/shorts';
import { keySets } from '../keys';
import type { LineFile } from '../drawing/drawLine';
import { Page } from '../page/Page';
import { useReadings } from '../readings/useReadings';
import { Column } from '../ui/Column';
import { Button } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { shownOf } from '../ui/shownOf';
import { useShortcuts } from '../ui/useShortcuts';
import { CaptionsPanel } from './CaptionsPanel';
import { FramePanel } from './FramePanel';
import { ShortCards } from './ShortCards';
import { ShortsHead } from './ShortsHead';
import { ShortViewer } from './ShortViewer';
import { TextPanel } from '../reel/text/TextPanel';
import { StylePanel } from './StylePanel';
import { useShortsDesk, type ShortsDesk } from './useShortsDesk';
import { WhyShort } from './WhyShort';

interface ShortsScreenProps {
  set: ShortSetData;
  items: Item[];
  projectId: string;
}

const secondsPerLine = 40;
const noShares = { people: 0, talk: 0, action: 0, camera: 0, sound: 0, picture: 0 };
const tabs: [string, string][] = [
  ['why', 'Why'],
  ['captions', 'Captions'],
  ['text', 'Text'],
  ['frame', 'Frame'],
  ['style', 'Style'],
];

/** The shorts of a recording: cards on top, where the chosen one comes from below, and what can be changed about it at the right. */
export function ShortsScreen({ set, items, projectId }: ShortsScreenProps) {
  const place = useShortsDesk(set, items, projectId);
  const [help, setHelp] = useState(false);
  useShortsKeys(place, () => setHelp(true));
  return (
    <div className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        <ShortsHead place={place} />
        <Problem place={place} />
        <Cards place={place} />
        <SourceHead place={place} />
        <SourcePage place={place} />
      </main>
      <ShortColumn place={place} />
      <KeySheet open={help} onOpenChange={setHelp} sets={[['Shorts', keySets.shorts]]} />
    </div>
  );
}

function useShortsKeys({ desk, short, set, source, history, thumb, step, setTab }: ShortsDesk, help: () => void) {
  const { player } = desk;
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
    takeOut: () => desk.actions.takeOut(),
    addMarked: source.addMarked,
    undo: history.undo,
    redo: history.redo,
    panelWhyShort: () => setTab('why'),
    panelCaptions: () => setTab('captions'),
    panelFrame: () => setTab('frame'),
    panelStyle: () => setTab('style'),
    fullScreen: () => shownOf(document, '[data-fullscreen]')?.click(),
    help,
  });
}

function Problem({ place: { problem, desk } }: { place: ShortsDesk }) {
  if (!problem) return null;
  return (
    <p role="alert" className="mx-4 mb-1 flex items-center rounded-md bg-raised px-3 py-2 text-shake">
      {problem}
      <button
        type="button"
        className="ml-auto text-muted hover:text-text"
        aria-label="Dismiss this message"
        onClick={desk.live.forgetProblem}
      >
        <X size={14} />
      </button>
    </p>
  );
}

function Cards({ place }: { place: ShortsDesk }) {
  const { set, shorts, short, desk, item, projectId, choose, move } = place;
  if (shorts.length === 0 && place.comesUp) return <p className="px-4 py-6 text-muted">The next best comes up…</p>;
  if (shorts.length === 0)
    return (
      <p className="px-4 py-6 text-muted">
        {set.shorts.length === 0
          ? 'All of them were put away. “Put away” brings each back; “Find again” looks anew.'
          : 'None of them is like that. Show all of them again at the top.'}
      </p>
    );
  return (
    <ShortCards
      shorts={shorts}
      chosen={short?.id ?? ''}
      live={desk.document}
      item={item}
      words={desk.spoken.words.get(set.mediaId)?.words ?? set.words}
      beside={desk.texts.beside}
      thumbs={set.thumbs}
      projectId={projectId}
      onChoose={choose}
      onThumb={place.thumb}
      onMove={move}
      onRename={(name) => desk.live.edit({ type: 'rename', name })}
    />
  );
}

function SourceHead({ place: { desk, source } }: { place: ShortsDesk }) {
  const { marked, setMarked, addMarked } = source;
  return (
    <div className="flex min-h-9 shrink-0 items-center gap-3 border-t border-line px-4">
      <h2 className="truncate text-sm font-semibold">
        {desk.document ? `Where “${desk.document.name}” comes from` : 'Where it comes from'}
      </h2>
      {marked ? (
        <>
          <span className="tabular text-muted">
            {formatClock(marked.start, true)} to {formatClock(marked.end, true)}
          </span>
          <Button className="!h-7" command="addMarked" onClick={addMarked}>
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
  );
}

/** The whole recording, with light on the pieces of the short. */
function SourcePage({ place: { item, desk, source } }: { place: ShortsDesk }) {
  const { pieces, playhead, marked, setMarked, goTo, trim } = source;
  const media = useMemo(() => (item ? [item.id] : []), [item]);
  const footage = useReadings(media)?.[0] ?? null;
  const string = useMemo(
    () => new StringOut(footage ? [{ id: footage.id, seconds: footage.durationSeconds }] : []),
    [footage],
  );
  const files = useMemo((): LineFile[] => {
    if (!footage || !item) return [];
    const moments = pieces.map(({ start, end }) => ({
      media: item.id,
      start,
      end,
      score: 0,
      shares: noShares,
      kept: 'score' as const,
    }));
    const { id, name, sheets = null } = item;
    return [{ id, name, footage, sheets, flaws: [], used: [], found: [], markers: [], moments }];
  }, [footage, item, pieces]);
  const edges = useMemo(() => pieces.flatMap((piece) => [piece.start, piece.end]), [pieces]);
  if (!item)
    return (
      <p className="px-4 py-3 text-muted">
        The recording was taken out of the project; the shorts stay, but cannot be played.
      </p>
    );
  if (!footage) return <p className="px-4 py-3 text-muted">The readings are on their way.</p>;
  return (
    <Page
      string={string}
      files={files}
      secondsPerLine={secondsPerLine}
      playhead={playhead}
      marked={marked}
      selected={pieces.find((piece) => piece.id === desk.clip?.id) ?? null}
      edges={edges}
      onHover={() => undefined}
      onPoint={goTo}
      onMark={setMarked}
      onTrim={(edge, time, how) => how === 'done' && trim(edge, time)}
      menuAt={(time) => {
        if (time !== null && !(marked && time >= marked.start && time <= marked.end)) goTo(time);
        return [{ command: 'play' }, { command: 'addMarked' }];
      }}
      onPinch={() => undefined}
    />
  );
}

/** What the picture follows, in words. */
function followsOf({ desk, framing }: ShortsDesk): string {
  if (framing.busy) return 'framing…';
  const own = desk.clip?.framing;
  if (own?.keys.length) return 'follows, by hand';
  if (own?.subject === 'fixed') return 'stays where it is';
  if (own) return `follows ${own.follows ?? 'what stands out'}`;
  return (desk.clip?.fit ?? desk.document?.fit) === 'fill' ? 'the middle' : 'the whole picture';
}

function ShortColumn({ place }: { place: ShortsDesk }) {
  const { desk, framing, source, step, tab, setTab } = place;
  return (
    <Column
      picture={
        <ShortViewer
          desk={desk}
          follows={followsOf(place)}
          onPrevious={() => step(-1)}
          onNext={() => step(1)}
          onDrag={(middle) => void framing.put(source.sourceAt(desk.player.time), middle)}
        />
      }
    >
      <Column.Tabs value={tab} onChange={setTab} tabs={tabs}>
        <Panel place={place} />
      </Column.Tabs>
    </Column>
  );
}

function Panel({ place: { short, tab, desk, source, framing, set, projectId, setTab } }: { place: ShortsDesk }) {
  if (!short) return <p className="text-muted">Choose a short.</p>;
  switch (tab) {
    case 'captions':
      return <CaptionsPanel key={short.id} desk={desk} sourceAt={source.sourceAt} onStyle={() => setTab('style')} />;
    case 'text':
      return <TextPanel key={short.id} desk={desk} />;
    case 'frame':
      return (
        <FramePanel
          key={short.id}
          desk={desk}
          framing={desk.clip?.framing ?? null}
          busy={framing.busy}
          problem={framing.problem}
          onFrame={(wanted, all) => void framing.frame(wanted, all)}
        />
      );
    case 'style':
      return <StylePanel key={short.id} desk={desk} styles={set.styles} projectId={projectId} />;
    default:
      return <WhyShort key={short.id} short={short} set={set} desk={desk} />;
  }
}
