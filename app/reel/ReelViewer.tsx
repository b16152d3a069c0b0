import { useEffect, useRef, useState, type ReactNode } from 'react';
import { formatTimecode, secondsToFrames, type Rate } from '#core/time';
import { PlayerButtons, useFullScreen } from '../player/PlayerButtons';
import type { useReelPlayer } from '../player/useReelPlayer';
import { usePictureWindowWidth } from '../pictureWindow/pictureWindow';
import { SafeAreas } from '../ui/SafeAreas';
import { useColumnWidth } from '../ui/useColumnWidth';

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

/** Pixels of the longer side that are drawn: more than the column is wide, and at most so many, as on the full screen. */
const drawnPerPixel = 1.28,
  mostDrawn = 1280;

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
  const column = useColumnWidth();
  const beside = usePictureWindowWidth();
  const [areas, setAreas] = useState(false);
  const scale = Math.min(
    1,
    (full ? mostDrawn : Math.min(mostDrawn, Math.max((own ?? column) * drawnPerPixel, beside))) /
      Math.max(size.width, size.height),
  );
  const [width, height] = [Math.round(size.width * scale), Math.round(size.height * scale)];
  const { setSize } = player;
  useEffect(() => setSize(width, height), [setSize, width, height]);
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
        {!instead && areas && (
          <div
            className="pointer-events-none absolute inset-0 m-auto"
            style={{
              aspectRatio: `${size.width} / ${size.height}`,
              ...(size.width / size.height >= 16 / 9 ? { width: '100%' } : { height: '100%' }),
            }}
          >
            <SafeAreas size={size} />
          </div>
        )}
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
