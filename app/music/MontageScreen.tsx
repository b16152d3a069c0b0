import { Hand, Redo2, Undo2, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { beatBefore, tempoOf } from '#core/sound';
import { framesToSeconds } from '#core/time';
import { keySets } from '../keys';
import { Button, IconButton } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { SaveMark } from '../ui/SaveMark';
import { shownOf } from '../ui/shownOf';
import { useRoomBelow } from '../ui/useRoomBelow';
import { useShortcuts } from '../ui/useShortcuts';
import { BeatsMenu } from './BeatsMenu';
import { useClicks } from './clicks';
import { CountLine, sureness } from './CountLine';
import { CutBar } from './CutBar';
import { MarksBar } from './MarksBar';
import { MusicMaker } from './MusicMaker';
import { MusicColumn } from './MusicColumn';
import { MusicLines } from './MusicLines';
import { middleBeat } from './SlotPanel';
import { tempoWords } from './tempoWords';
import { useMusicPlace, zooms, type MusicPlace, type MusicPlaceProps } from './useMusicPlace';

/** Seconds by which a key moves a mark or an edge. */
const nudgeSeconds = 0.01;

/** The Music place: from a song and a pile of pieces to pictures on the beat. */
export function MontageScreen(props: MusicPlaceProps) {
  const place = useMusicPlace(props);
  const [help, setHelp] = useState(false);
  const { desk, player, montage, clicks, counts, marks, slot, chooseSlot, zoom, brush } = place;
  const heardGrid = counts.heard?.count.grid ?? null;
  useClicks(clicks || heardGrid !== null, player.playing, heardGrid ?? montage.grid, player.rawMusic);
  useShortcuts({ ...playKeys(place), ...cutKeys(place), help: () => setHelp(true) });
  const screen = useRef<HTMLDivElement>(null);
  const below = useRoomBelow(screen, desk.reel.size, true);
  return (
    <div ref={screen} className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        <Head place={place} />
        <Problem place={place} />
        <CountLine desk={desk} counts={counts} />
        <MarksBar place={place} />
        <MusicLines
          desk={desk}
          grid={heardGrid ?? montage.grid}
          secondsPerLine={zooms[zoom]!}
          slot={slot?.id ?? null}
          mark={marks.chosen}
          brush={brush}
          isTight={below !== null}
          onSlot={chooseSlot}
          onMark={marks.choose}
        />
        <CutBar place={place} />
      </main>
      <MusicColumn place={place} below={below} />
      <KeySheet open={help} onOpenChange={setHelp} sets={[['Music', keySets.music]]} />
    </div>
  );
}

type Keys = Parameters<typeof useShortcuts>[0];

function playKeys({ desk, player, montage, toSlot, clicks, setClicks, nearer, farther }: MusicPlace): Keys {
  const step = framesToSeconds(1, desk.reel.rate);
  return {
    play: () => (player.playing ? player.pause() : player.play()),
    frameBack: () => player.seek(player.time - step),
    frameOn: () => player.seek(player.time + step),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    toStart: () => player.seek(0),
    toEnd: () => player.seek(montage.span.end),
    previous: () => toSlot(-1),
    next: () => toSlot(1),
    clickTrack: () => setClicks(!clicks),
    finer: nearer,
    coarser: farther,
    fullScreen: () => shownOf(document, '[data-fullscreen]')?.click(),
  };
}

function cutKeys({ desk, history, montage, actions, counts, marks, slot, paint, makeReel }: MusicPlace): Keys {
  return {
    tapMark: marks.tap,
    removeMark: marks.remove,
    nudgeBack: () => marks.nudge(-nudgeSeconds),
    nudgeOn: () => marks.nudge(nudgeSeconds),
    swapSlot: () => slot && actions.swap(slot.id, 1),
    swapSlotBack: () => slot && actions.swap(slot.id, -1),
    lockSlot: () => slot && actions.lock([slot.id]),
    splitSlot: () => slot && actions.split(slot.id, middleBeat(desk, slot)),
    joinSlot: () => slot && actions.join(slot.id),
    fillAgain: actions.fillAgain,
    followEnergy: () => actions.pattern({ followEnergy: !montage.pattern.followEnergy }),
    every1: () => paint(1),
    every2: () => paint(2),
    every3: () => paint(3),
    every4: () => paint(4),
    every8: () => paint(8),
    everyBar: () => paint('bar'),
    everyMark: () => paint('marks'),
    spanIn: () => actions.span(desk.time, montage.span.end),
    spanOut: () => actions.span(montage.span.start, desk.time),
    barHere: () => {
      const beat = beatBefore(montage.grid, desk.time + 0.1);
      if (beat >= 0) actions.correct({ type: 'downbeat', index: beat });
    },
    hearCount: counts.hearNext,
    takeCount: () => counts.take(false),
    takeCountAll: () => counts.take(true),
    tapBeat: counts.tap,
    makeReel: () => makeReel(),
    undo: history.undo,
    redo: history.redo,
  };
}

function Head({
  place: { projectId, music, songs, hearing, desk, history, montage, clicks, setClicks, marks },
}: {
  place: MusicPlace;
}) {
  const navigate = useNavigate();
  return (
    <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4">
      <h1 className="min-w-20 max-w-56">
        <select
          aria-label="Music"
          className="w-full truncate bg-transparent text-base font-semibold hover:text-lampline"
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
      <MusicMaker projectId={projectId} music={music} songs={songs} />
      <span
        className="tabular whitespace-nowrap text-muted"
        data-testid="tempo"
        title={desk.doubts.length ? sureness({ ...hearing, doubts: desk.doubts }) : undefined}
      >
        {tempoWords(tempoOf(montage.grid), montage.grid.bar, desk.doubts.length === 0)}
      </span>
      <span className="ml-auto flex items-center gap-2">
        <SaveMark state={desk.state} />
        <BeatsMenu desk={desk} clicks={clicks} onClicks={setClicks} />
        <Button command="tapMark" onClick={marks.tap}>
          <Hand size={15} aria-hidden /> Tap
        </Button>
        <IconButton label="Undo" command="undo" disabled={!history.canUndo} onClick={history.undo}>
          <Undo2 size={16} />
        </IconButton>
        <IconButton label="Redo" command="redo" disabled={!history.canRedo} onClick={history.redo}>
          <Redo2 size={16} />
        </IconButton>
      </span>
    </div>
  );
}

function Problem({ place: { desk } }: { place: MusicPlace }) {
  if (!desk.problem) return null;
  return (
    <p role="alert" className="mx-4 mb-1 flex items-center gap-3 rounded-md bg-raised px-3 py-2 text-shake">
      {desk.problem}
      <button
        type="button"
        className="ml-auto text-muted hover:text-text"
        aria-label="Dismiss this message"
        onClick={() => desk.setProblem(null)}
      >
        <X size={14} />
      </button>
    </p>
  );
}
