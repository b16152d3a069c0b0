import { useEffect, useRef, useState } from 'react';
import { decimal } from '#core/sentences';
import type { Footage } from '#core/moments';
import { locate, snapPlace, type ReelMarker, type Segment, type SnapKind, type Title } from '#core/reel';
import { framesToSeconds, type Rate } from '#core/time';
import type { ViewedComment } from '#usecases/viewings';
import { useDraw } from '../hands/useDraw';
import { useShade } from '../ui/shade';
import { drawSound, soundHeight } from './drawSound';
import type { ReelDesk } from './useReelDesk';

interface LineProps {
  /** Seconds that the line shows. */
  from: number;
  to: number;
  /** Where a time lies, in pixels. */
  place(time: number): number;
  rate: Rate;
  desk: ReelDesk;
  snaps: ReadonlySet<SnapKind>;
  pick(id: string, seconds: number, how?: 'only' | 'add' | 'upTo'): void;
}

/** Clips above or beside the pieces of one line: low bars at their times, which can be drawn along. Sound shows its waveform. */
export function Lane({
  from,
  to,
  place,
  rate,
  desk,
  snaps,
  pick,
  clips,
  kind,
  readingOf,
}: LineProps & { clips: Segment[]; kind: 'above' | 'beside'; readingOf?(media: string | null): Footage | null }) {
  const seen = clips.filter((segment) => segment.startSeconds < to - 1e-6 && segment.endSeconds > from + 1e-6);
  if (seen.length === 0) return null;
  const tracks = [...new Set(seen.map((segment) => segment.track))].sort((a, b) => (kind === 'above' ? b - a : a - b));
  return (
    <>
      {tracks.map((track) => (
        <div
          key={track}
          className={`relative ${kind === 'above' ? 'mb-0.5 h-[18px]' : 'mt-0.5'}`}
          style={kind === 'beside' ? { height: soundHeight + 16 } : undefined}
        >
          {seen
            .filter((segment) => segment.track === track)
            .map((segment) => {
              const left = place(Math.max(from, segment.startSeconds));
              const width = Math.max(10, place(Math.min(to, segment.endSeconds)) - left);
              return (
                <Bar
                  key={`${segment.id}${segment.startFrame}`}
                  {...{ segment, left, width, from, to, rate, desk, snaps, pick, kind }}
                  reading={readingOf?.(segment.media) ?? null}
                />
              );
            })}
        </div>
      ))}
    </>
  );
}

type BarProps = Omit<LineProps, 'place'> & {
  segment: Segment;
  left: number;
  width: number;
  kind: 'above' | 'beside';
  reading: Footage | null;
};

function Bar({ segment, left, width, from, to, rate, desk, snaps, pick, kind, reading }: BarProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [shift, setShift] = useState(0);
  const shade = useShade();
  const [start, end] = [Math.max(from, segment.startSeconds), Math.min(to, segment.endSeconds)];
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !reading) return;
    canvas.current!.width = width * 2;
    canvas.current!.height = soundHeight * 2;
    context.setTransform(2, 0, 0, 2, 0, 0);
    if (segment.gain > 0)
      drawSound(
        context,
        width,
        reading,
        segment.sourceSeconds + (start - segment.startSeconds) * segment.speed,
        (end - start) * segment.speed,
      );
  }, [reading, segment, width, start, end, shade]);
  const along = useDraw({
    begin: () => {
      const { document, playFrame } = desk;
      const found = document && locate(document, segment.id);
      if (!found) return null;
      const perFrame = width / Math.max(1, (end - start) / framesToSeconds(1, rate));
      let frame = found.start;
      return {
        move: ({ byX, shiftKey }) => {
          frame = snapPlace(
            document,
            found,
            found.start + Math.round(byX / perFrame),
            { playhead: playFrame, beats: desk.beats },
            shiftKey ? new Set() : snaps,
            Math.max(1, Math.round(8 / perFrame)),
          ).frame;
          setShift((frame - found.start) * perFrame);
        },
        done: () => {
          setShift(0);
          if (frame !== found.start) desk.live.edit({ type: 'place', clip: segment.id, at: frame });
        },
        left: () => setShift(0),
      };
    },
  });
  const selected = segment.id === desk.segment?.id || desk.chosen.some((clip) => clip.id === segment.id);
  const look =
    kind === 'above' ? 'h-[18px] border-muted bg-line px-1.5' : 'flex items-start border-line bg-raised px-1.5';
  return (
    <button
      type="button"
      data-above={segment.id}
      aria-pressed={selected}
      {...along()}
      onClick={(event) => pick(segment.id, segment.startSeconds, event.ctrlKey || event.metaKey ? 'add' : 'only')}
      className={`absolute top-0 touch-none overflow-hidden rounded border text-left text-xs leading-4 ${look} ${selected ? 'outline outline-2 outline-text' : ''}`}
      style={{ left: left + shift, width, ...(kind === 'beside' ? { height: soundHeight + 16 } : {}) }}
    >
      <span className="block min-w-0 truncate">
        <span className="sr-only">{kind === 'above' ? 'Above: ' : 'Sound: '}</span>
        {segment.name}
        {segment.clip?.link !== undefined && <span className="text-muted"> · linked</span>}
        <span className="sr-only">, {decimal(segment.endSeconds - segment.startSeconds, 1)} seconds</span>
      </span>
      {kind === 'beside' && (
        <canvas
          ref={canvas}
          className="pointer-events-none absolute bottom-0 left-0"
          style={{ width, height: soundHeight - 2 }}
          aria-hidden
        />
      )}
    </button>
  );
}

type FlagsProps = LineProps & {
  markers: ReelMarker[];
  titles: Title[];
  onTitle?: ((id: string) => void) | undefined;
  comments: readonly ViewedComment[];
  onComment?: ((id: string) => void) | undefined;
};

/** Markers as flags, titles as bars and comments as drops over a line. */
export function Flags({ from, to, place, rate, desk, markers, titles, onTitle, comments, onComment }: FlagsProps) {
  const seconds = (frames: number) => framesToSeconds(frames, rate);
  const flags = markers.filter((marker) => seconds(marker.frame) >= from - 1e-6 && seconds(marker.frame) < to);
  const bars = titles.filter((title) => seconds(title.frame) < to && seconds(title.frame + title.frames) > from);
  const said = comments.filter(({ now }) => seconds(now.frame) >= from - 1e-6 && seconds(now.frame) < to);
  if (flags.length === 0 && bars.length === 0 && said.length === 0) return null;
  return (
    <div className="relative mb-0.5 h-[18px]">
      {bars.map((title) => {
        const left = place(Math.max(from, seconds(title.frame)));
        return (
          <button
            key={title.id}
            type="button"
            data-title={title.id}
            onClick={() => {
              desk.player.seek(
                seconds(title.frame) + seconds(Math.min(title.frames, Math.round(rate.num / rate.den / 2))),
              );
              onTitle?.(title.id);
            }}
            className="absolute h-[18px] truncate rounded border border-dashed border-muted px-1.5 text-left text-xs leading-4 hover:bg-raised"
            style={{ left, width: Math.max(16, place(Math.min(to, seconds(title.frame + title.frames))) - left) }}
          >
            <span className="sr-only">Title: </span>
            {title.text}
          </button>
        );
      })}
      {said.map(({ id, now, author, text, isDone }) => (
        <button
          key={id}
          type="button"
          data-comment-flag={id}
          aria-label={`Comment of ${author}${isDone ? ', done' : ''}: ${text}`}
          title={`${author}: ${text}`}
          onClick={() => {
            desk.player.seek(seconds(now.frame) + 1e-4);
            onComment?.(id);
          }}
          className={`absolute bottom-0.5 h-3 w-3 rounded-full rounded-bl-none border ${isDone ? 'border-muted bg-ground' : 'border-ground bg-text'}`}
          style={{ left: place(seconds(now.frame)) }}
        />
      ))}
      {flags.map((marker) => (
        <button
          key={marker.id}
          type="button"
          data-marker={marker.id}
          aria-label={`Marker${marker.note ? `: ${marker.note}` : ''}`}
          title={marker.note || 'Marker'}
          onClick={() => desk.player.seek(seconds(marker.frame) + 1e-4)}
          className="absolute bottom-0 h-[18px] w-3 border-l-2 border-text"
          style={{ left: place(seconds(marker.frame)) }}
        >
          <span className="absolute left-0 top-0 h-2.5 w-2.5 bg-text [clip-path:polygon(0_0,100%_50%,0_100%)]" />
        </button>
      ))}
    </div>
  );
}
