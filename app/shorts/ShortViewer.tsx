import { useEffect, useRef, useState } from 'react';
import { cropWidth, pathAt } from '#core/framing';
import { formatClock } from '#core/time';
import { useDraw } from '../hands/useDraw';
import { PlayerButtons, useFullScreen } from '../player/PlayerButtons';
import type { ReelDesk } from '../reel/useReelDesk';
import { usePictureWindowWidth } from '../pictureWindow/pictureWindow';
import { SafeAreas } from '../ui/SafeAreas';
import { useColumnWidth } from '../ui/useColumnWidth';

/** The viewer is as high as the column is wide, and leaves room for the panels. */
const highest = 620;

interface ShortViewerProps {
  desk: ReelDesk;
  follows: string;
  onPrevious(): void;
  onNext(): void;
  /** The crop was dragged: its new middle at the playhead, in shares of the source. */
  onDrag(middle: { x: number; y: number }): void;
}

/** The short as it will be, in the middle of the whole picture; dragging moves the picture under the frame. */
export function ShortViewer({ desk, follows, onPrevious, onNext, onDrag }: ShortViewerProps) {
  const { player, document: reel, segment } = desk;
  const frame = useRef<HTMLDivElement>(null);
  const full = useFullScreen(frame);
  const column = useColumnWidth();
  const box = { width: column - 1, height: Math.min(highest, column) };
  const [covers, setCovers] = useState(false);
  const [held, setHeld] = useState<{ dx: number; dy: number } | null>(null);
  const size = reel?.size ?? { width: 9, height: 16 };
  const scale = Math.min((box.width - 12) / size.width, (box.height - 12) / size.height);
  const [width, height] = [Math.round(size.width * scale), Math.round(size.height * scale)];
  const beside = usePictureWindowWidth();
  const ratio = full || beside > width * 2 ? 2.6 : 2;
  const { setSize } = player;
  useEffect(() => setSize(Math.round(width * ratio), Math.round(height * ratio)), [setSize, width, height, ratio]);
  const item = segment?.media ? desk.itemOf(segment.media) : null;
  const framing = segment?.clip?.framing;
  const source = item?.probe ? { width: item.probe.width, height: item.probe.height } : null;
  const fills = (segment?.clip?.fit ?? reel?.fit) === 'fill';
  const canDrag = Boolean(framing && source && fills && !framing.below);
  const middleAfter = (dx: number, dy: number) => {
    const shown = cropWidth(source!, size, framing!.zoom);
    const seconds = segment!.sourceSeconds + (player.time - segment!.startSeconds) * segment!.speed;
    const now = pathAt(framing!.path, seconds);
    const pixel = shown / width;
    const inside = (value: number, extent: number) => Math.min(1 - extent / 2, Math.max(extent / 2, value));
    const tall = (shown * source!.width * size.height) / (size.width * source!.height);
    // The picture follows the hand, so the crop goes the other way.
    return {
      x: inside(now.x - dx * pixel, shown),
      y: inside(now.y - (dy * pixel * source!.width) / source!.height, tall),
    };
  };
  const drag = useDraw({
    begin: () => {
      if (!canDrag) return null;
      player.pause();
      return {
        move: ({ byX, byY }) => setHeld({ dx: byX, dy: byY }),
        done: ({ byX, byY }) => {
          setHeld(null);
          onDrag(middleAfter(byX, byY));
        },
        left: () => setHeld(null),
      };
    },
  });
  return (
    <div className="shrink-0 border-b border-line">
      <div
        ref={frame}
        className={`relative flex touch-none items-center justify-center overflow-hidden bg-black ${canDrag ? 'cursor-grab active:cursor-grabbing' : ''}`}
        style={full ? { height: '100vh' } : { height: box.height }}
        data-testid="short-viewer"
        {...drag()}
      >
        {!full && (
          <canvas
            ref={player.surround}
            width={box.width * 2}
            height={(box.height - 12) * 2}
            className="absolute left-0 top-1.5"
            style={{
              width: box.width,
              height: box.height - 12,
              transform: held ? `translate(${held.dx}px, 0)` : undefined,
            }}
            aria-hidden
          />
        )}
        <div
          data-picture-frame
          className={`relative ${full ? 'h-full' : 'overflow-hidden rounded-md outline outline-2 outline-text'}`}
          style={full ? { aspectRatio: `${size.width} / ${size.height}` } : { width, height }}
        >
          <canvas
            ref={player.screen}
            className="h-full w-full"
            style={held ? { transform: `translate(${held.dx}px, 0)` } : undefined}
            role="img"
            aria-label="The short at the playhead"
          />
          {covers && <SafeAreas size={size} />}
        </div>
      </div>
      <div className="flex min-h-10 items-center gap-1 border-t border-line px-2.5">
        <PlayerButtons
          player={player}
          steps="Short"
          size={size}
          areas={covers}
          onAreas={setCovers}
          frame={frame}
          onPrevious={onPrevious}
          onNext={onNext}
        />
        <span
          className="ml-1 truncate text-muted"
          data-testid="follows"
          title={canDrag ? 'Drag the picture to frame it by hand' : undefined}
        >
          {follows}
        </span>
        <span className="tabular ml-auto text-muted" data-testid="timecode">
          {formatClock(player.time, true)}
        </span>
      </div>
    </div>
  );
}
