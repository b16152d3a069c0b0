import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import type { SnapKind } from '#core/reel';
import { formatClock } from '#core/time';
import type { ReelData } from '#usecases/reels';
import { keySets } from '../../keys';
import { IconButton } from '../../ui/controls';
import { KeySheet } from '../../ui/KeySheet';
import { EndingBar } from '../EndingBar';
import { KeysHere } from '../ReelDock';
import { ReelStrips } from '../ReelStrips';
import { ReelColumn } from './ReelColumn';
import { ReelHead } from './ReelHead';
import { useReelKeys } from './useReelKeys';
import { useRoomBelow } from '../../ui/useRoomBelow';
import { useReelPlace, type ReelPlace, type Which } from './useReelPlace';

/** An open reel set like a page; above it another one, or an earlier version, when that is wished. */
export function ReelScreen({ projectId, data }: { projectId: string; data: ReelData }) {
  const place = useReelPlace(projectId, data);
  const [help, setHelp] = useState(false);
  useReelKeys(place, () => setHelp(true));
  const { lower, reel, two } = place;
  const screen = useRef<HTMLDivElement>(null);
  const below = useRoomBelow(screen, (lower.document ?? reel.document).size, !two);
  return (
    <div ref={screen} className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        {two && <Above place={place} />}
        <Pane place={place} which="lower" label={`Reel: ${reel.document.name}`}>
          <ReelHead place={place} />
          <Strips place={place} which="lower" isTight={below !== null} />
          {!two && <EndingBar desk={lower} />}
        </Pane>
      </main>
      <ReelColumn place={place} below={below} />
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

interface PaneProps {
  place: ReelPlace;
  which: Which;
  label: string;
  className?: string;
  children: React.ReactNode;
}

/** One of the two reels; a click into it gives it the keys. */
function Pane({ place: { two, which: focused, setFocus }, which, label, className = '', children }: PaneProps) {
  const edge = two && focused === which ? 'border-l-lampline' : 'border-l-transparent';
  return (
    <section
      aria-label={label}
      data-focused={focused === which}
      className={`flex min-h-0 flex-1 flex-col border-l-2 ${edge} ${className}`}
      onPointerDownCapture={() => setFocus(which)}
    >
      {children}
    </section>
  );
}

function Above({ place }: { place: ReelPlace }) {
  const { upper, which, nameAbove, putAbove } = place;
  return (
    <Pane place={place} which="upper" label={`Above: ${nameAbove}`} className="border-b border-b-line">
      <div className="flex min-h-11 shrink-0 items-center gap-3 px-4">
        <h2 className="truncate text-base font-semibold">{nameAbove}</h2>
        <span className="tabular whitespace-nowrap text-muted">{formatClock(upper.total, true)}</span>
        <KeysHere here={which === 'upper'} />
        <span className="ml-auto">
          <IconButton label="Close the reel above" onClick={() => putAbove(null)}>
            <X size={15} />
          </IconButton>
        </span>
      </div>
      <Strips place={place} which="upper" />
    </Pane>
  );
}

const noSnaps: ReadonlySet<SnapKind> = new Set();

/** A reel's pieces, and what was refused of it. */
function Strips({ place, which, isTight = false }: { place: ReelPlace; which: Which; isTight?: boolean }) {
  const { two, modes, allDifferences, setMoving, openTitle, dropOver, viewing, openComment } = place;
  const desk = place[which];
  return (
    <>
      <Refusal live={desk.live} />
      <ReelStrips
        desk={desk}
        compact={two}
        isTight={isTight}
        differences={allDifferences}
        snaps={modes.snapping ? modes.snaps : noSnaps}
        inPlace={modes.inPlace}
        onMoving={setMoving}
        onTitle={openTitle}
        comments={which === 'lower' ? viewing.comments : undefined}
        onComment={openComment}
        onForeign={dropOver ? (clip, frame, copy) => dropOver(which, clip, frame, copy) : undefined}
      />
    </>
  );
}

/** Why an edit was not done, and one that would fit. */
function Refusal({ live }: { live: ReelPlace['desk']['live'] }) {
  const { problem, instead } = live;
  if (!problem) return null;
  return (
    <p role="alert" className="mx-4 mb-1 flex items-center gap-3 rounded-md bg-raised px-3 py-2 text-shake">
      {problem}
      {instead && (
        <button
          type="button"
          className="whitespace-nowrap font-semibold text-lampline"
          onClick={() => live.edit(instead.command)}
        >
          {instead.says}
        </button>
      )}
      <button
        type="button"
        className="ml-auto text-muted hover:text-text"
        aria-label="Dismiss this message"
        onClick={live.forgetProblem}
      >
        <X size={14} />
      </button>
    </p>
  );
}
