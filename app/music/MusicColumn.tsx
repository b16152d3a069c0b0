import { Clapperboard, ListPlus, Lock, Shuffle } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { PlayerButtons, useFullScreen } from '../player/PlayerButtons';
import { useDrawnSize } from '../player/useDrawnSize';
import { Column, type Below } from '../ui/Column';
import { Button } from '../ui/controls';
import { AreasOver } from '../ui/SafeAreas';
import { EnergyPanel } from './EnergyPanel';
import { PiecesPanel } from './PiecesPanel';
import { SlotPanel } from './SlotPanel';
import type { useMontage } from './useMontage';
import type { MusicPlace } from './useMusicPlace';

const tabs: [string, string][] = [
  ['pieces', 'Pieces'],
  ['slot', 'Slot'],
  ['energy', 'Energy'],
];

/** The montage as it plays, what it is made of, and the next step. */
export function MusicColumn({ place, below }: { place: MusicPlace; below: Below | null }) {
  const { desk, montage, slot, toSlot, tab, setTab, placeWords } = place;
  return (
    <Column
      below={below}
      picture={
        <MontageViewer
          desk={desk}
          place={placeWords}
          width={below?.width}
          slotWords={slot ? `slot ${montage.slots.indexOf(slot) + 1} of ${montage.slots.length}` : ''}
          onPrevious={() => toSlot(-1)}
          onNext={() => toSlot(1)}
        />
      }
    >
      <Column.Tabs value={tab} onChange={setTab} tabs={tabs}>
        <Panel place={place} />
      </Column.Tabs>
      <Foot place={place} />
    </Column>
  );
}

function Panel({ place: { tab, desk, projectId, reels, piece, setPiece, slot } }: { place: MusicPlace }) {
  if (tab === 'pieces')
    return <PiecesPanel desk={desk} projectId={projectId} reels={reels} chosen={piece} onChoose={setPiece} />;
  return tab === 'slot' ? <SlotPanel desk={desk} slot={slot} /> : <EnergyPanel desk={desk} />;
}

function Foot({ place }: { place: MusicPlace }) {
  const { actions, slot, reelNow, projectId, reels, makeReel, makingReel, filled } = place;
  return (
    <div className="flex shrink-0 items-center gap-1.5 border-t border-line px-3 py-2.5">
      <Button command="fillAgain" onClick={actions.fillAgain}>
        <Shuffle size={14} aria-hidden /> Fill again
      </Button>
      <Button command="lockSlot" disabled={!slot} onClick={() => slot && actions.lock([slot.id])}>
        <Lock size={14} aria-hidden /> {slot?.locked ? 'Unlock' : 'Lock'}
      </Button>
      <span className="ml-auto flex items-center gap-1.5">
        {reelNow && (
          <Link
            className="text-sm text-muted underline hover:text-text"
            to={`/projects/${projectId}/reels/${reelNow.id}`}
            title={`“${reelNow.name}” follows these slots`}
          >
            Its reel
          </Link>
        )}
        {reels.length > 0 && <IntoReel reels={reels} onInto={(into, how, at) => makeReel({ into, how, at })} />}
        <Button
          look="lamp"
          command="makeReel"
          disabled={filled === 0 || makingReel}
          onClick={() => {
            if (reelNow) toast(`A new reel; “${reelNow.name}” no longer follows.`);
            makeReel();
          }}
        >
          <Clapperboard size={15} aria-hidden /> Make reel
        </Button>
      </span>
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
  width: own,
  onPrevious,
  onNext,
}: {
  desk: ReturnType<typeof useMontage>;
  place: string;
  slotWords: string;
  /** Where it fills a box of its own instead of the column: how wide that is, in pixels. */
  width?: number | undefined;
  onPrevious(): void;
  onNext(): void;
}) {
  const { player, reel } = desk;
  const frame = useRef<HTMLDivElement>(null);
  const full = useFullScreen(frame);
  const [areas, setAreas] = useState(false);
  useDrawnSize(player, reel.size, full, own);
  return (
    <div className={own === undefined ? 'shrink-0 border-b border-line' : 'flex h-full flex-col border-t border-line'}>
      <div
        ref={frame}
        data-picture-frame
        className={`relative bg-black ${full ? 'h-screen' : own === undefined ? 'aspect-video' : 'min-h-0 flex-1'}`}
        data-testid="montage-viewer"
      >
        <canvas
          ref={player.screen}
          className="absolute inset-0 h-full w-full object-contain"
          role="img"
          aria-label="The montage at the playhead"
        />
        {areas && <AreasOver size={reel.size} />}
        <span
          className="tabular absolute bottom-2 left-2.5 rounded bg-black/70 px-1.5 py-0.5 text-[13px]"
          data-testid="place"
        >
          {place}
        </span>
      </div>
      <div className="flex min-h-9 items-center gap-1 px-2.5">
        <PlayerButtons
          player={player}
          steps="Slot"
          size={reel.size}
          areas={areas}
          onAreas={setAreas}
          frame={frame}
          onPrevious={onPrevious}
          onNext={onNext}
        />
        <span className="tabular ml-auto text-muted">{slotWords}</span>
      </div>
    </div>
  );
}
