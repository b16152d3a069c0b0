import { Crop, Maximize, Pause, Play, Repeat, SkipBack, SkipForward } from 'lucide-react';
import { useEffect, useRef } from 'react';
import {
  formatClock,
  formatTimecode,
  secondsToFrames,
  sourceStartOf,
  sourceTimecodes,
  type Range,
  type Rate,
  type StringOut,
} from '#core/time';
import type { FootagePlayer } from '../player/useFootagePlayer';
import { decimal } from '#core/sentences';
import type { Item } from '#usecases/projects';
import { PictureWindowButton } from '../pictureWindow/PictureWindowButton';
import { IconButton } from '../ui/controls';
import { drawFrame } from '../drawing/sheets';

interface ViewerProps {
  player: FootagePlayer;
  string: StringOut;
  marked: Range | null;
  safeAreas: boolean;
  itemOf(id: string): Item | null;
  rateOf(id: string): Rate;
  onPrevious(): void;
  onNext(): void;
  onLoop(): void;
  onSafeAreas(): void;
}

/** The picture at the playhead or under the pointer, with the timecode of the source and of the string-out. */
export function Viewer({
  player,
  string,
  marked,
  safeAreas,
  itemOf,
  rateOf,
  onPrevious,
  onNext,
  onLoop,
  onSafeAreas,
}: ViewerProps) {
  const frame = useRef<HTMLDivElement>(null);
  const shownAt = player.hover?.at ?? player.time;
  const place = string.locate(shownAt);
  const item = place && itemOf(place.id);
  const rate = place && rateOf(place.id);
  const timecode = (seconds: number) => (rate ? formatTimecode(secondsToFrames(seconds, rate), rate) : '');
  const start = item?.probe ? sourceStartOf(item.probe) : null;
  return (
    <div className="shrink-0 border-b border-line">
      <div ref={frame} id="viewer" data-picture-frame className="relative aspect-video bg-black">
        <video ref={player.screen} className="h-full w-full" playsInline preload="auto" aria-label="Viewer" />
        {item?.probe?.kind === 'photo' && (
          <img
            src={`/media/${item.id}`}
            alt={item.name}
            className="absolute inset-0 h-full w-full bg-black object-contain"
          />
        )}
        {player.hover && !player.hover.isSharp && item && place && <Peek item={item} seconds={place.seconds} />}
        {safeAreas && <SafeAreas />}
        <span
          className="tabular absolute bottom-2 left-2.5 rounded bg-black/70 px-1.5 py-0.5 text-[13px]"
          data-testid="timecode"
          title={start ? 'Timecode of the camera' : 'Time from the start of the file'}
        >
          {place && rate && sourceTimecodes(start, secondsToFrames(place.seconds, rate), 0, rate)[0]}
        </span>
        <span className="absolute bottom-2 right-2.5 max-w-[200px] truncate rounded bg-black/70 px-1.5 py-0.5 text-xs text-muted">
          {item?.name}
        </span>
        {player.playing && Math.abs(player.rate) !== 1 && (
          <span className="tabular absolute right-2.5 top-2 rounded bg-black/70 px-1.5 py-0.5 text-[13px]">
            {player.rate}×
          </span>
        )}
      </div>
      <div className="flex min-h-9 items-center gap-0.5 px-2.5">
        <IconButton label="Moment before" command="previous" onClick={onPrevious}>
          <SkipBack size={15} />
        </IconButton>
        <IconButton
          label={player.playing ? 'Pause' : 'Play'}
          command="play"
          onClick={() => (player.playing ? player.pause() : player.play())}
        >
          {player.playing ? <Pause size={16} /> : <Play size={16} />}
        </IconButton>
        <IconButton label="Moment after" command="next" onClick={onNext}>
          <SkipForward size={15} />
        </IconButton>
        <IconButton
          label="Loop the marked range"
          command="loop"
          aria-pressed={Boolean(player.loop)}
          className={player.loop ? 'text-lampline' : ''}
          disabled={!marked && !player.loop}
          onClick={onLoop}
        >
          <Repeat size={15} />
        </IconButton>
        <IconButton
          label="Safe areas"
          command="safeAreas"
          aria-pressed={safeAreas}
          className={safeAreas ? 'text-lampline' : ''}
          onClick={onSafeAreas}
        >
          <Crop size={15} />
        </IconButton>
        <PictureWindowButton />
        <IconButton label="Full screen" command="fullScreen" onClick={() => fullScreen(frame.current)}>
          <Maximize size={15} />
        </IconButton>
        <span
          className="tabular ml-auto whitespace-nowrap text-xs text-muted"
          data-testid="string-time"
          title="Timecode of everything end to end"
        >
          {marked ? (
            <>
              {formatClock(marked.start, true)} – {formatClock(marked.end, true)}{' '}
              <span className="ml-1 text-sm text-text">{decimal(marked.end - marked.start, 1)} s</span>
            </>
          ) : (
            timecode(player.time)
          )}
        </span>
      </div>
    </div>
  );
}

/** The picture on the whole screen, or back. */
export function fullScreen(element: HTMLElement | null): void {
  if (document.fullscreenElement) void document.exitFullscreen();
  else void element?.requestFullscreen().catch(() => undefined);
}

/** The nearest thumbnail at once, until the true frame is there. */
function Peek({ item, seconds }: { item: Item; seconds: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context || !item.sheets) return;
    element.width = item.sheets.width;
    element.height = item.sheets.height;
    drawFrame(context, item.id, item.sheets, seconds, 0, 0, element.width, element.height);
  }, [item, seconds]);
  return item.sheets && item.probe?.kind !== 'photo' ? (
    <canvas ref={canvas} className="absolute inset-0 h-full w-full object-contain" aria-hidden />
  ) : null;
}

/** Action safe 3.5 %, graphics safe 5 % from each edge (EBU R 95, 16:9). */
function SafeAreas() {
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full"
      viewBox="0 0 1000 562.5"
      aria-hidden
      fill="none"
      stroke="#f2ede4"
      strokeOpacity="0.75"
    >
      <rect x="35" y="19.7" width="930" height="523.1" />
      <rect x="50" y="28.1" width="900" height="506.3" strokeDasharray="8 6" />
      <path d="M490 281.25h20M500 271.25v20" />
    </svg>
  );
}
