import { useRef, useState, type ReactNode } from 'react';
import { formatTimecode, secondsToFrames, type Rate } from '#core/time';
import { PlayerButtons, useFullScreen } from '../player/PlayerButtons';
import { useDrawnSize } from '../player/useDrawnSize';
import type { useReelPlayer } from '../player/useReelPlayer';
import { AreasOver } from '../ui/SafeAreas';

interface ReelViewerProps {
  player: ReturnType<typeof useReelPlayer>;
  rate: Rate;
  size: { width: number; height: number };
  /** "piece 2 of 9", or what else there is to say. */
  place: string;
  testId?: string;
  /** Where it fills a box of its own instead of the column: how wide that is, in pixels. */
  width?: number | undefined;
  /** Frames at a cut that is being moved, instead of the playhead's. */
  instead?: ReactNode;
  onPrevious(): void;
  onNext(): void;
}

/** The reel at its playhead, played from its footage without a render. */
export function ReelViewer({
  player,
  rate,
  size,
  place,
  testId = 'reel-viewer',
  width: own,
  instead,
  onPrevious,
  onNext,
}: ReelViewerProps) {
  const frame = useRef<HTMLDivElement>(null);
  const full = useFullScreen(frame);
  const [areas, setAreas] = useState(false);
  useDrawnSize(player, size, full, own);
  return (
    <div
      className={own === undefined ? 'shrink-0 border-b border-line' : 'flex h-full flex-col border-t border-line'}
      data-testid={testId}
    >
      <div
        ref={frame}
        data-picture-frame
        className={`relative bg-black ${full ? 'h-screen' : own === undefined ? 'aspect-video' : 'min-h-0 flex-1'}`}
      >
        <canvas
          ref={player.screen}
          className="absolute inset-0 h-full w-full object-contain"
          role="img"
          aria-label="The reel at the playhead"
        />
        {instead}
        {!instead && areas && <AreasOver size={size} />}
      </div>
      <div className="flex min-h-9 items-center gap-1 px-2.5">
        <PlayerButtons
          player={player}
          steps="Piece"
          size={size}
          areas={areas}
          onAreas={setAreas}
          frame={frame}
          onPrevious={onPrevious}
          onNext={onNext}
        />
        <span className="tabular ml-1.5 text-[13px]" data-testid="timecode">
          {formatTimecode(secondsToFrames(player.time, rate), rate)}
        </span>
        <span className="tabular ml-auto truncate text-muted">{place}</span>
      </div>
    </div>
  );
}
