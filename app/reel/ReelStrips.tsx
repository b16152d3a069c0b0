import { useVirtualizer } from '@tanstack/react-virtual';
import { Fragment, useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { Difference, MovedClip, Segment, SnapKind } from '#core/reel';
import { formatClock } from '#core/time';
import { useReadings } from '../readings/useReadings';
import type { Moving } from './CutFrames';
import { Flags, Lane } from './Lanes';
import { Piece } from './Piece';
import type { ReelDesk } from './useReelDesk';

interface ReelStripsProps {
  desk: ReelDesk;
  /** Smaller, for a reel below a page. */
  compact?: boolean;
  snaps?: ReadonlySet<SnapKind>;
  /** What is cut off stays as a gap, and nothing moves. */
  inPlace?: boolean;
  /** Pieces that differ from another version. */
  differences?: readonly Difference[] | null;
  /** Does an edit and notes that it was done. */
  onMoving?(moving: Moving | null): void;
  onTitle?(id: string): void;
}

const gutter = 56;
const heights = { full: 56, compact: 38 };
/** Least width of a piece, and the room between two, in pixels. */
const narrowest = 14,
  between = 2;
const none: ReadonlySet<SnapKind> = new Set();
/** Reels of so many lines are there whole; of longer ones so many lines beyond the screen. */
const fewLines = 30;
const linesAround = 1;

/** A reel set like text: whole pieces wrap from line to line, each as wide as it is long. */
export function ReelStrips({
  desk,
  compact = false,
  snaps = none,
  inPlace = false,
  differences = null,
  onMoving = () => undefined,
  onTitle,
}: ReelStripsProps) {
  const { segments, above, beside, itemOf, document, rate, live } = desk;
  const { time } = desk.player;
  const selectedId = desk.segment?.id ?? null;
  const chosen = new Set(desk.chosen.map((clip) => clip.id));
  const moved = document?.moved ?? [];
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.max(200, entry!.contentRect.width - gutter - 8)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);
  const { lines, secondsPerLine, virtual } = useLines({ segments, width, compact, frame, time });
  const files = useMemo(
    () => [...new Set([...segments, ...beside].flatMap((segment) => segment.media ?? []))].sort(),
    [segments, beside],
  );
  const readings = useReadings(files.filter((media) => itemOf(media)?.probe));
  const readingOf = (media: string | null) => readings?.find((each) => each.id === media) ?? null;
  const widthOf = (segment: Segment) =>
    Math.min(
      width,
      Math.max(narrowest, ((segment.endSeconds - segment.startSeconds) / secondsPerLine) * width - between),
    );
  const gone = (before: string | null) =>
    moved.filter(
      (each) =>
        each.before === before ||
        (before === null && each.before !== null && !segments.some((segment) => segment.id === each.before)),
    );
  const dimmed = (each: MovedClip) => (
    <MovedPiece
      key={each.clip.id}
      moved={each}
      height={compact ? heights.compact : heights.full}
      onBack={() => live.edit({ type: 'takeBack', clip: each.clip.id })}
    />
  );
  const seek = (seconds: number) => desk.player.seek(seconds);
  const pick = (id: string, seconds: number, how: 'only' | 'add' | 'upTo' = 'only') => {
    desk.choose(id, how);
    if (how === 'only') seek(seconds);
  };
  return (
    <div
      ref={frame}
      className={`min-h-0 flex-1 overflow-y-auto px-4 ${compact ? 'pb-2' : 'pb-6 pt-1'}`}
      role="region"
      aria-label="The reel's pieces"
      tabIndex={0}
    >
      <div className="relative shrink-0" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index: at, key, start }) => {
          const indexes = lines[at]!;
          const own = indexes.map((index) => segments[index]!);
          const [from, to] = [own[0]!.startSeconds, own.at(-1)!.endSeconds];
          const place = placeIn(own, widthOf);
          const lane = { from, to: at === lines.length - 1 ? Infinity : to, place, rate, desk, snaps, pick };
          return (
            <div
              key={key}
              ref={virtual.measureElement}
              data-index={at}
              className={`absolute inset-x-0 top-0 flex ${compact ? 'pb-2' : 'pb-5'}`}
              style={{ transform: `translateY(${start}px)` }}
            >
              <span className="tabular w-14 shrink-0 pt-5 text-muted">{formatClock(from)}</span>
              <div>
                {!compact && (
                  <Flags
                    {...lane}
                    markers={document?.markers ?? []}
                    titles={document?.titles ?? []}
                    onTitle={onTitle}
                  />
                )}
                <Lane {...lane} clips={above} kind="above" />
                <div className="flex gap-0.5">
                  {indexes.map((index) => {
                    const segment = segments[index]!;
                    const length = segment.endSeconds - segment.startSeconds;
                    return (
                      <Fragment key={segment.id}>
                        {gone(segment.id).map(dimmed)}
                        <Piece
                          desk={desk}
                          segment={segment}
                          item={segment.media === null ? null : itemOf(segment.media)}
                          reading={readingOf(segment.media)}
                          width={widthOf(segment)}
                          height={compact ? heights.compact : heights.full}
                          selected={segment.id === selectedId}
                          also={chosen.has(segment.id)}
                          snaps={snaps}
                          change={differences?.find((each) => each.clip === segment.id)?.kind}
                          played={
                            time >= segment.startSeconds && time < segment.endSeconds
                              ? (time - segment.startSeconds) / length
                              : null
                          }
                          onPick={(share, how) =>
                            pick(segment.id, segment.startSeconds + Math.min(0.999, share) * length, how)
                          }
                          onDropHere={(id) => live.edit({ type: 'move', clip: id, to: index })}
                          onMoving={onMoving}
                          onMoved={({ clip, what, frames }) =>
                            live.edit(
                              what === 'roll' || what === 'slip'
                                ? { type: what, clip, frames }
                                : { type: 'trim', clip, edge: what, frames, ...(inPlace ? { inPlace } : {}) },
                            )
                          }
                        />
                      </Fragment>
                    );
                  })}
                  {at === lines.length - 1 && gone(null).map(dimmed)}
                </div>
                {!compact && <Lane {...lane} clips={beside} kind="beside" readingOf={readingOf} />}
              </div>
            </div>
          );
        })}
      </div>
      {lines.length === 0 && <div className="flex gap-0.5 pl-14">{moved.map(dimmed)}</div>}
      {lines.length === 0 && !compact && (
        <p className="pl-14 pt-2 text-muted">
          {moved.length === 0 ? 'Nothing in it yet. Send pieces to it from the moments.' : ''}
        </p>
      )}
    </div>
  );
}

interface LinesOptions {
  segments: readonly Segment[];
  /** Of a line, in pixels; 0 before it is known. */
  width: number;
  compact: boolean;
  frame: RefObject<HTMLDivElement | null>;
  /** Where the playhead stands, in seconds. */
  time: number;
}

/** The lines of a reel, and which of them are there: of a long reel what is on screen, and something around it. */
function useLines({ segments, width, compact, frame, time }: LinesOptions) {
  const total = segments.at(-1)?.endSeconds ?? 0;
  // So that even a short piece can be pressed: a quick montage gets fewer seconds a line.
  const short = useMemo(() => {
    const lengths = segments.map((segment) => segment.endSeconds - segment.startSeconds).sort((a, b) => a - b);
    return lengths[Math.floor(lengths.length / 5)] ?? 1;
  }, [segments]);
  const secondsPerLine = Math.min(
    total <= 20 ? 20 : total <= 120 ? 30 : total <= 600 ? 60 : 120,
    Math.max(8, Math.floor((short * width) / (narrowest + 10))),
  );
  const lines = useMemo(() => wrap(segments, secondsPerLine), [segments, secondsPerLine]);
  const line = lines.findIndex(
    (indexes) => time >= segments[indexes[0]!]!.startSeconds && time < segments[indexes.at(-1)!]!.endSeconds,
  );
  const virtual = useVirtualizer({
    count: width > 0 ? lines.length : 0,
    getScrollElement: () => frame.current,
    estimateSize: () => (compact ? heights.compact + 8 : heights.full + 64),
    overscan: lines.length <= fewLines ? fewLines : linesAround,
  });
  useEffect(() => {
    if (line >= 0) virtual.scrollToIndex(line, { align: 'auto' });
  }, [line, virtual]);
  return { lines, secondsPerLine, virtual };
}

interface MovedPieceProps {
  moved: MovedClip;
  height: number;
  onBack(): void;
}

/** A piece that went to another reel, where it was. */
const MovedPiece = ({ moved: { clip }, height, onBack }: MovedPieceProps) => (
  <button
    type="button"
    data-moved={clip.id}
    title={`“${clip.name}” went to another reel; press to take it back`}
    onClick={onBack}
    className="shrink-0 overflow-hidden truncate rounded border border-dashed border-line px-1 text-left text-xs text-muted opacity-60"
    style={{ width: 56, height }}
  >
    {clip.name}
    <span className="sr-only">, moved to another reel; take it back</span>
  </button>
);

/** Where a time of a line lies in it, in pixels. */
function placeIn(line: readonly Segment[], widthOf: (segment: Segment) => number): (time: number) => number {
  return (time) => {
    let x = 0;
    for (const piece of line) {
      const wide = widthOf(piece);
      if (time < piece.endSeconds)
        return x + (Math.max(0, time - piece.startSeconds) / (piece.endSeconds - piece.startSeconds)) * wide;
      x += wide + between;
    }
    return x - between;
  };
}

/** Whole pieces per line, at least one. */
export function wrap(segments: readonly Segment[], secondsPerLine: number): number[][] {
  const lines: number[][] = [];
  let left = 0;
  for (const [index, segment] of segments.entries()) {
    const length = segment.endSeconds - segment.startSeconds;
    if (lines.length === 0 || length > left + 1e-9) {
      lines.push([]);
      left = secondsPerLine;
    }
    lines.at(-1)!.push(index);
    left -= length;
  }
  return lines;
}
