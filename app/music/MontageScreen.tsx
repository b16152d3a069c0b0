import {
  Activity,
  Clapperboard,
  Hand,
  ListPlus,
  Lock,
  Pause,
  Play,
  Redo2,
  Shuffle,
  SkipBack,
  SkipForward,
  Undo2,
  X,
} from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { addMark, moveMark, quantiseMarks, removeMark, tapOffset, tidyMarks, type Every } from '#core/montage';
import { beatBefore, placeOf, tempoOf, type MusicHearing } from '#core/sound';
import { formatClock, framesToSeconds } from '#core/time';
import type { StoredMontage } from '#usecases/montages';
import { keySets } from '../keys';
import type { Item } from '#usecases/projects';
import { Column } from '../ui/Column';
import { Button, IconButton } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { SaveMark } from '../ui/SaveMark';
import { useShortcuts } from '../ui/useShortcuts';
import { BeatsMenu } from './BeatsMenu';
import { useClicks } from './clicks';
import { EnergyPanel } from './EnergyPanel';
import { FillMenu } from './FillMenu';
import { DoubtLine, sureness } from './DoubtLine';
import { MusicLines, everyWords } from './MusicLines';
import { PiecesPanel } from './PiecesPanel';
import { SlotPanel, middleBeat } from './SlotPanel';
import { useMontage, type Gather } from './useMontage';

interface MontageScreenProps {
  projectId: string;
  music: Item;
  hearing: MusicHearing;
  stored: StoredMontage;
  gather: Gather;
  reels: { id: string; name: string }[];
  items: Item[];
}

const brushes: Every[] = [1, 2, 3, 4, 8, 'bar', 'marks'];
const zooms = [8, 12, 24, 48];
const tabs: [string, string][] = [
  ['pieces', 'Pieces'],
  ['slot', 'Slot'],
  ['energy', 'Energy'],
];

/** The Music place: from a song and a pile of pieces to pictures on the beat. */
export function MontageScreen({ projectId, music, hearing, stored, gather, reels, items }: MontageScreenProps) {
  const desk = useMontage(projectId, music, hearing, stored, gather, items);
  const { montage, actions, player, time } = desk;
  const navigate = useNavigate();
  const [tab, setTab] = useState('pieces');
  const [chosenSlot, setChosenSlot] = useState<string | null>(null);
  const [mark, setMark] = useState<number | null>(null);
  const [piece, setPiece] = useState<string | null>(null);
  const [brush, setBrush] = useState<Every>(2);
  const [zoom, setZoom] = useState(2);
  const [clicks, setClicks] = useState(false);
  const [help, setHelp] = useState(false);
  const tapped = useRef<number[]>([]);
  const [tapHint, setTapHint] = useState<number | null>(null);
  useClicks(clicks, player.playing, montage.grid, player.rawMusic);

  const under =
    montage.slots.find((slot) => time >= slot.start - 1e-3 && time < slot.end - 1e-3) ?? montage.slots.at(-1) ?? null;
  const slot = montage.slots.find((each) => each.id === chosenSlot) ?? under;
  const choose = useCallback((id: string | null) => {
    setChosenSlot(id);
    if (id) setTab('slot');
  }, []);
  // While it plays, the slot under the playhead is the one that keys are about.
  useEffect(() => {
    if (player.playing) setChosenSlot(null);
  }, [player.playing]);
  const toSlot = (by: number) => {
    const next = montage.slots[(slot ? montage.slots.indexOf(slot) : 0) + by];
    if (!next) return;
    setChosenSlot(next.id);
    desk.toSlot(next);
  };
  const tap = () => {
    const at = montage.span.start + player.exact();
    if (at < 0 || at > hearing.durationSeconds) return;
    actions.marks(addMark(montage.marks, at));
    tapped.current = [...tapped.current.slice(-15), at];
    setTapHint(player.playing ? tapOffset(tapped.current, montage.grid) : null);
  };
  const nudge = (by: number) => {
    if (mark !== null) {
      actions.marks(moveMark(montage.marks, mark, mark + by), 'nudge');
      setMark(Math.max(0, mark + by));
    } else if (slot && montage.slots[0] !== slot) actions.moveEdge(slot.id, slot.start + by);
  };
  const section = hearing.sections.findIndex((each) => time >= each.start - 1e-3 && time < each.end);
  const paint = (every: Every) => () => {
    setBrush(every);
    if (section >= 0) actions.paint(section, every);
  };
  const remove = () => {
    if (mark === null) return;
    actions.marks(removeMark(montage.marks, mark));
    setMark(null);
  };
  // A change waits until it is saved, so that the reel is made of what is seen.
  const [making, setMaking] = useState<{ into?: string; how?: string; at?: string } | null>(null);
  const makeReel = () => setMaking({});
  useEffect(() => {
    if (!making || desk.state !== 'saved') return;
    setMaking(null);
    void fetch(`/projects/${projectId}/music/${music.id}/montage`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ makeReel: true, ...making }),
    }).then(
      async (answer) => {
        const body = (await answer.json()) as { reel?: string; problems?: Record<string, string> };
        if (body.reel) void navigate(`/projects/${projectId}/reels/${body.reel}`);
        else desk.setProblem(Object.values(body.problems ?? {})[0] ?? 'The reel could not be made. Try again.');
      },
      () => desk.setProblem('The server does not answer. What you did is kept; try again in a moment.'),
    );
  }, [making, desk, projectId, music.id, navigate]);
  const step = framesToSeconds(1, desk.reel.rate);
  useShortcuts({
    play: () => (player.playing ? player.pause() : player.play()),
    frameBack: () => player.seek(player.time - step),
    frameOn: () => player.seek(player.time + step),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    toStart: () => player.seek(0),
    toEnd: () => player.seek(montage.span.end),
    previous: () => toSlot(-1),
    next: () => toSlot(1),
    tapMark: tap,
    removeMark: remove,
    nudgeBack: () => nudge(-0.01),
    nudgeOn: () => nudge(0.01),
    swapSlot: () => slot && actions.swap(slot.id, 1),
    swapSlotBack: () => slot && actions.swap(slot.id, -1),
    lockSlot: () => slot && actions.lock([slot.id]),
    splitSlot: () => slot && actions.split(slot.id, middleBeat(desk, slot)),
    joinSlot: () => slot && actions.join(slot.id),
    fillAgain: actions.fillAgain,
    followEnergy: () => actions.pattern({ followEnergy: !montage.pattern.followEnergy }),
    every1: paint(1),
    every2: paint(2),
    every3: paint(3),
    every4: paint(4),
    every8: paint(8),
    everyBar: paint('bar'),
    everyMark: paint('marks'),
    spanIn: () => actions.span(time, montage.span.end),
    spanOut: () => actions.span(montage.span.start, time),
    clickTrack: () => setClicks(!clicks),
    barHere: () => {
      const beat = beatBefore(montage.grid, time + 0.1);
      if (beat >= 0) actions.correct({ type: 'downbeat', index: beat });
    },
    makeReel,
    finer: () => setZoom(Math.max(0, zoom - 1)),
    coarser: () => setZoom(Math.min(zooms.length - 1, zoom + 1)),
    undo: desk.undo,
    redo: desk.redo,
    help: () => setHelp(true),
    fullScreen: () => document.querySelector<HTMLButtonElement>('[data-fullscreen]')?.click(),
  });

  const tempo = tempoOf(montage.grid);
  const filled = montage.slots.filter((each) => each.piece);
  const different = new Set(filled.map((each) => each.piece!.piece)).size;
  const again = filled.length - different;
  const songs = items.filter((item) => item.probe?.kind === 'sound' && !item.problem);
  const beat = beatBefore(montage.grid, time + 0.02);
  const place = beat >= 0 ? placeOf(montage.grid, beat) : null;
  const reelNow = stored.reelId && reels.find((each) => each.id === stored.reelId);
  const firstOffered = montage.marks.length > 0 && montage.marks[0]! > montage.span.start + 0.15;
  return (
    <div className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        <div className="flex h-12 shrink-0 items-center gap-3 px-4">
          <h1 className="min-w-0">
            <select
              aria-label="Music"
              className="max-w-56 truncate bg-transparent text-base font-semibold hover:text-lamp"
              value={music.id}
              onChange={(event) => {
                event.currentTarget.blur();
                void navigate(`/projects/${projectId}/music/${event.target.value}`);
              }}
            >
              {songs.map((song) => (
                <option key={song.id} value={song.id} className="bg-raised">
                  {song.name.replace(/\.\w+$/, '')}
                </option>
              ))}
            </select>
          </h1>
          <span
            className="tabular whitespace-nowrap text-muted"
            data-testid="tempo"
            title={desk.doubts.length ? sureness(hearing) : undefined}
          >
            {!tempo
              ? 'no beats heard'
              : desk.doubts.length
                ? `${tempo.toFixed(1)} bpm, not sure`
                : `${tempo.toFixed(1)} bpm · ${montage.grid.bar} beats a bar`}
          </span>
          <span className="ml-auto flex items-center gap-2">
            <SaveMark state={desk.state} />
            <BeatsMenu desk={desk} clicks={clicks} onClicks={setClicks} />
            <Button keys="T" onClick={tap}>
              <Hand size={15} aria-hidden /> Tap
            </Button>
            <IconButton label="Take back" keys="Ctrl Z" onClick={desk.undo}>
              <Undo2 size={16} />
            </IconButton>
            <IconButton label="Do again" keys="Ctrl Shift Z" onClick={desk.redo}>
              <Redo2 size={16} />
            </IconButton>
          </span>
        </div>
        {desk.problem && (
          <p role="alert" className="mx-4 mb-1 flex items-center gap-3 rounded-md bg-raised px-3 py-2 text-shake">
            {desk.problem}
            <button
              type="button"
              className="ml-auto text-muted hover:text-text"
              aria-label="Put this message away"
              onClick={() => desk.setProblem(null)}
            >
              <X size={14} />
            </button>
          </p>
        )}
        <DoubtLine desk={desk} />
        {montage.marks.length > 0 && (
          <div
            className="mx-4 mb-2 flex flex-wrap items-center gap-2 rounded-md bg-raised px-3 py-1.5 text-sm"
            role="group"
            aria-label="Marks"
          >
            <span data-testid="marks">
              {montage.marks.length} {montage.marks.length === 1 ? 'mark' : 'marks'}
            </span>
            {firstOffered && (
              <Button className="!h-7 !px-2" onClick={() => actions.marks(addMark(montage.marks, montage.span.start))}>
                One at the very start
              </Button>
            )}
            <Button
              className="!h-7 !px-2"
              disabled={montage.grid.beats.length === 0}
              onClick={() => actions.marks(quantiseMarks(montage.marks, montage.grid))}
            >
              Onto beats
            </Button>
            <Button
              className="!h-7 !px-2"
              disabled={montage.grid.beats.length === 0}
              onClick={() => actions.marks(quantiseMarks(montage.marks, montage.grid, true))}
            >
              Onto half beats
            </Button>
            <Button className="!h-7 !px-2" onClick={actions.cutOnMarks}>
              Cut on the marks
            </Button>
            <Button
              className="!h-7 !px-2"
              onClick={() => {
                actions.marks([]);
                setMark(null);
                tapped.current = [];
                setTapHint(null);
              }}
            >
              Clear all
            </Button>
            {tapHint !== null && Math.abs(tapHint) > 0.015 && (
              <Button
                look="quiet"
                className="!h-7 !px-2"
                onClick={() => {
                  actions.marks(
                    tidyMarks(
                      montage.marks.map((each) =>
                        tapped.current.some((own) => Math.abs(own - each) < 1e-6) ? each - tapHint : each,
                      ),
                    ),
                  );
                  tapped.current = [];
                  setTapHint(null);
                }}
              >
                You tap {Math.round(Math.abs(tapHint) * 1000)} ms {tapHint > 0 ? 'late' : 'early'}: take that off
              </Button>
            )}
          </div>
        )}
        <MusicLines
          desk={desk}
          secondsPerLine={zooms[zoom]!}
          slot={slot?.id ?? null}
          mark={mark}
          brush={brush}
          onSlot={choose}
          onMark={setMark}
        />
        <div className="shrink-0 border-t border-line px-4 py-2.5">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <span className="text-muted">Cut every</span>
            <div
              className="flex overflow-hidden rounded-md border border-line"
              role="group"
              aria-label="How often the picture changes"
            >
              {brushes.map((every) => (
                <button
                  key={every}
                  type="button"
                  aria-pressed={brush === every}
                  title={`Cut ${everyWords(every)}: press, then press the parts of the music to be cut so`}
                  onClick={() => setBrush(every)}
                  className={`h-[30px] px-2.5 ${brush === every ? 'bg-text font-semibold text-ground' : 'text-muted hover:text-text'}`}
                >
                  {every}
                </button>
              ))}
            </div>
            <Button onClick={() => actions.pattern({ every: brush, painted: {}, followEnergy: false })}>
              Everywhere
            </Button>
            <Button
              keys="E"
              aria-pressed={montage.pattern.followEnergy}
              className={montage.pattern.followEnergy ? 'border-text' : ''}
              onClick={() => actions.pattern({ followEnergy: !montage.pattern.followEnergy, painted: {} })}
            >
              <Activity size={14} aria-hidden /> Follow the energy
            </Button>
            <FillMenu desk={desk} />
          </div>
          <p className="mt-1.5 flex gap-3 text-xs">
            <span className="whitespace-nowrap text-sm" data-testid="cuts">
              <strong>
                {montage.slots.length} {montage.slots.length === 1 ? 'slot' : 'slots'}
              </strong>{' '}
              <span className="text-muted">
                {different} {different === 1 ? 'piece' : 'pieces'}
                {again > 0 ? `, ${again} shown again` : ''}
                {filled.length < montage.slots.length ? `, ${montage.slots.length - filled.length} empty` : ''}
              </span>
            </span>
            <span className="pt-0.5 text-muted" role="status">
              {desk.note}
            </span>
          </p>
        </div>
      </main>
      <Column>
        <MontageViewer
          desk={desk}
          place={place ? `${formatClock(time, true)} · bar ${place.bar} · beat ${place.beat}` : formatClock(time, true)}
          slotWords={slot ? `slot ${montage.slots.indexOf(slot) + 1} of ${montage.slots.length}` : ''}
          onPrevious={() => toSlot(-1)}
          onNext={() => toSlot(1)}
        />
        <Column.Tabs value={tab} onChange={setTab} tabs={tabs}>
          {tab === 'pieces' ? (
            <PiecesPanel desk={desk} projectId={projectId} reels={reels} chosen={piece} onChoose={setPiece} />
          ) : tab === 'slot' ? (
            <SlotPanel desk={desk} slot={slot} />
          ) : (
            <EnergyPanel desk={desk} />
          )}
        </Column.Tabs>
        <div className="flex shrink-0 items-center gap-2 border-t border-line px-4 py-2.5">
          <Button keys="A" onClick={actions.fillAgain}>
            <Shuffle size={14} aria-hidden /> Fill again
          </Button>
          <Button keys="L" disabled={!slot} onClick={() => slot && actions.lock([slot.id])}>
            <Lock size={14} aria-hidden /> {slot?.locked ? 'Unlock' : 'Lock'}
          </Button>
          <span className="ml-auto flex items-center gap-2">
            {reelNow && (
              <Link
                className="text-sm text-muted underline hover:text-text"
                to={`/projects/${projectId}/reels/${reelNow.id}`}
                title={`“${reelNow.name}” follows these slots`}
              >
                Its reel
              </Link>
            )}
            {reels.length > 0 && <IntoReel reels={reels} onInto={(into, how, at) => setMaking({ into, how, at })} />}
            <Button
              look="lamp"
              keys="R"
              disabled={filled.length === 0 || making !== null}
              onClick={() => {
                if (reelNow) toast(`A new reel; “${reelNow.name}” no longer follows.`);
                makeReel();
              }}
            >
              <Clapperboard size={15} aria-hidden /> Make reel
            </Button>
          </span>
        </div>
      </Column>
      <KeySheet open={help} onOpenChange={setHelp} sets={[['Music', keySets.music]]} />
    </div>
  );
}

const ways = [
  ['insert', 'end', 'at its end'],
  ['insert', 'start', 'at its start'],
  ['overwrite', 'start', 'over its start'],
] as const;

/** Puts the montage into a reel that is there instead of making a new one. */
function IntoReel({
  reels,
  onInto,
}: {
  reels: { id: string; name: string }[];
  onInto(reel: string, how: string, at: string): void;
}) {
  const item = 'flex cursor-default items-center rounded px-2 py-1.5 text-sm outline-none data-[highlighted]:bg-line';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label="Into a reel that is there"
        title="Into a reel that is there"
        className="inline-flex h-[30px] w-8 items-center justify-center rounded-md border border-line hover:bg-line/60"
      >
        <ListPlus size={15} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          side="top"
          align="end"
          sideOffset={6}
          className="z-50 max-h-96 w-64 overflow-y-auto rounded-md border border-line bg-raised p-1 shadow-xl"
        >
          {reels.map((reel) => (
            <DropdownMenu.Group key={reel.id}>
              <DropdownMenu.Label className="truncate px-2 pt-1.5 text-xs text-muted">
                Into “{reel.name}”
              </DropdownMenu.Label>
              {ways.map(([how, at, words]) => (
                <DropdownMenu.Item key={words} className={item} onSelect={() => onInto(reel.id, how, at)}>
                  {words}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function MontageViewer({
  desk,
  place,
  slotWords,
  onPrevious,
  onNext,
}: {
  desk: ReturnType<typeof useMontage>;
  place: string;
  slotWords: string;
  onPrevious(): void;
  onNext(): void;
}) {
  const { player, reel } = desk;
  const scale = Math.min(1, 512 / Math.max(reel.size.width, reel.size.height));
  const [width, height] = [Math.round(reel.size.width * scale), Math.round(reel.size.height * scale)];
  const { setSize } = player;
  useEffect(() => setSize(width, height), [setSize, width, height]);
  return (
    <div className="shrink-0 border-b border-line">
      <div className="relative aspect-video bg-black" data-testid="montage-viewer">
        <canvas
          ref={player.screen}
          className="absolute inset-0 h-full w-full object-contain"
          role="img"
          aria-label="The montage at the playhead"
        />
        <span
          className="tabular absolute bottom-2 left-2.5 rounded bg-black/70 px-1.5 py-0.5 text-[13px]"
          data-testid="place"
        >
          {place}
        </span>
      </div>
      <div className="flex h-9 items-center gap-1 px-2.5">
        <IconButton label="Slot before" keys="[" onClick={onPrevious}>
          <SkipBack size={15} />
        </IconButton>
        <IconButton
          label={player.playing ? 'Pause' : 'Play'}
          keys="Space"
          onClick={() => (player.playing ? player.pause() : player.play())}
        >
          {player.playing ? <Pause size={16} /> : <Play size={16} />}
        </IconButton>
        <IconButton label="Slot after" keys="]" onClick={onNext}>
          <SkipForward size={15} />
        </IconButton>
        <span className="tabular ml-auto text-muted">{slotWords}</span>
      </div>
    </div>
  );
}
