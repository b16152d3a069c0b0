import { useVirtualizer } from '@tanstack/react-virtual';
import { Fragment, useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { Run } from '#core/readings';
import { reelFrames, type Difference, type MovedClip, type Segment, type SnapKind } from '#core/reel';
import { formatClock } from '#core/time';
import type { ViewedComment } from '#usecases/viewings';
import { useReadings } from '../readings/useReadings';
import type { Moving } from './CutFrames';
import { Flags, Lane } from './Lanes';
import { Piece, type PieceHands } from './Piece';
import { StripCanvas } from './StripCanvas';
import type { EdgeDrag } from './edgeDrag';
import { between, layLine, movedWidth, narrowest, placeIn, wrap } from './stripLayout';
import type { ReelDesk } from './useReelDesk';
import { landedAt } from '../hands/landedAt';
import { useLandingRoom } from '../hands/useLandingRoom';
import { ContextMenu, type MenuEntry } from '../ui/ContextMenu';
import { useInnerWidth } from '../ui/useInnerWidth';
import { useLatest } from '../ui/useLatest';
import { reelMenu } from './reelMenu';

interface ReelStripsProps {
  desk: ReelDesk;
  /** Smaller, for a reel below a page. */
  compact?: boolean;
  /** No higher than its pieces: something else takes the room below. */
  isTight?: boolean;
  snaps?: ReadonlySet<SnapKind>;
  /** What is cut off stays as a gap, and nothing moves. */
  inPlace?: boolean;
  /** Pieces that differ from another version. */
  differences?: readonly Difference[] | null;
  /** Does an edit and notes that it was done. */
  onMoving?(moving: Moving | null): void;
  onTitle?(id: string): void;
  /** What others said of it. */
  comments?: readonly ViewedComment[] | undefined;
  onComment?(id: string): void;
  /** A piece that is not of this reel is let go at a frame. */
  onForeign?: ((clip: string, frame: number, copy: boolean) => void) | undefined;
}

const gutter = 56;
const heights = { full: 56, compact: 38 };
const none: ReadonlySet<SnapKind> = new Set();
const noRuns: readonly Run[] = [];
const noMoved: readonly MovedClip[] = [];
const noComments: readonly ViewedComment[] = [];
const nothing = () => undefined;
/** Reels of so many lines are there whole; of longer ones so many lines beyond the screen. */
const fewLines = 30;
const linesAround = 1;

/** A reel set like text: whole pieces wrap from line to line, each as wide as it is long. */
export function ReelStrips({
  desk,
  compact = false,
  isTight = false,
  snaps = none,
  inPlace = false,
  differences = null,
  onMoving = nothing,
  onTitle,
  comments = noComments,
  onComment,
  onForeign,
}: ReelStripsProps) {
  const { segments, above, beside, itemOf, document, rate, live } = desk;
  const { time } = desk.player;
  const selectedId = desk.segment?.id ?? null;
  const chosen = useMemo(() => new Set(desk.chosen.map((clip) => clip.id)), [desk.chosen]);
  const [drag, setDrag] = useState<EdgeDrag | null>(null);
  const moved = document?.moved ?? noMoved;
  const height = compact ? heights.compact : heights.full;
  const frame = useRef<HTMLDivElement>(null);
  const inner = useInnerWidth(frame);
  const width = inner && Math.max(200, inner - gutter - 8);
  const { lines, secondsPerLine, virtual } = useLines({ segments, width, compact, frame, time });
  const files = useMemo(
    () => [...new Set([...segments, ...beside].flatMap((segment) => segment.media ?? []))].sort(),
    [segments, beside],
  );
  const readings = useReadings(files.filter((media) => itemOf(media)?.probe));
  const byMedia = useMemo(() => new Map(readings?.map((each) => [each.id, each])), [readings]);
  const readingOf = useCallback((media: string | null) => (media && byMedia.get(media)) || null, [byMedia]);
  const changes = useMemo(() => new Map(differences?.map(({ clip, kind }) => [clip, kind])), [differences]);
  const widthOf = (segment: Segment) =>
    Math.min(
      width,
      Math.max(narrowest, ((segment.endSeconds - segment.startSeconds) / secondsPerLine) * width - between),
    );
  const ids = useMemo(
    () => (moved.length > 0 ? new Set(segments.map((segment) => segment.id)) : null),
    [segments, moved],
  );
  const gone = (before: string | null) =>
    moved.filter(
      (each) =>
        each.before === before || (before === null && each.before !== null && ids !== null && !ids.has(each.before)),
    );
  const dimmed = (each: MovedClip) => (
    <MovedPiece
      key={each.clip.id}
      moved={each}
      height={height}
      onBack={() => live.edit({ type: 'takeBack', clip: each.clip.id })}
    />
  );
  const pick = (id: string, seconds: number, how: 'only' | 'add' | 'upTo' = 'only') => {
    desk.choose(id, how);
    if (how === 'only') desk.player.seek(seconds);
  };
  const hands = usePieceHands({ desk, snaps, inPlace, pick, onDrag: setDrag, onMoving, onForeign });
  const menuAt = menuOf({ desk, hands, isChosen: (id) => chosen.has(id) });
  // A piece of another reel that is let go beside the pieces goes to the end.
  useLandingRoom(frame, 'piece', (id, { copy }) => {
    if (!onForeign || segments.some((each) => each.id === id)) return;
    onForeign(id, document ? reelFrames(document) : 0, copy);
  });
  return (
    <ContextMenu label="What can be done with the piece" entriesAt={menuAt}>
      <div
        ref={frame}
        data-strips
        className={`min-h-0 overflow-y-auto px-4 ${isTight ? 'shrink-0' : 'flex-1'} ${compact ? 'pb-2' : 'pb-6 pt-1'}`}
        role="region"
        aria-label="The reel's pieces"
        tabIndex={0}
      >
        <div className="relative shrink-0" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: at, key, start }) => {
            const indexes = lines[at]!;
            const own = indexes.map((index) => segments[index]!);
            const [from, to] = [own[0]!.startSeconds, own.at(-1)!.endSeconds];
            const laid = layLine(own, { widthOf, movedBefore: (id) => gone(id).length, drag });
            const place = placeIn(laid);
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
                      comments={comments}
                      onComment={onComment}
                    />
                  )}
                  <Lane {...lane} clips={above} kind="above" />
                  <div className="relative flex gap-0.5">
                    <StripCanvas line={laid} height={height} itemOf={itemOf} readingOf={readingOf} />
                    {laid.map(({ segment, width: wide }) => (
                      <Fragment key={segment.id}>
                        {gone(segment.id).map(dimmed)}
                        <Piece
                          hands={hands}
                          segment={segment}
                          item={segment.media === null ? null : itemOf(segment.media)}
                          runs={readingOf(segment.media)?.runs ?? noRuns}
                          width={wide}
                          usualWidth={widthOf(segment)}
                          height={height}
                          selected={segment.id === selectedId}
                          also={chosen.has(segment.id)}
                          change={changes.get(segment.id)}
                          played={playedShare(segment, time)}
                          drawn={drag?.clip === segment.id ? drag.edge : null}
                        />
                      </Fragment>
                    ))}
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
    </ContextMenu>
  );
}

/** How much of a piece the playhead has gone by; null while it is elsewhere. */
const playedShare = ({ startSeconds, endSeconds }: Segment, time: number) =>
  time >= startSeconds && time < endSeconds ? (time - startSeconds) / (endSeconds - startSeconds) : null;

/** A piece that is pressed is meant, with all that are chosen if it is one of them; the playhead goes to where it was pressed. */
const menuOf =
  ({ desk, hands, isChosen }: { desk: ReelDesk; hands: PieceHands; isChosen(id: string): boolean }) =>
  (target: Element, { clientX }: { clientX: number }): readonly MenuEntry[] => {
    const piece = target.closest<HTMLElement>('[data-piece], [data-above]');
    const id = piece?.dataset.piece ?? piece?.dataset.above;
    if (piece && id && !isChosen(id)) {
      const box = piece.getBoundingClientRect();
      if (piece.dataset.piece) hands.onPick(id, Math.max(0, (clientX - box.left) / box.width), 'only');
      else desk.choose(id, 'only');
    }
    return desk.segments.length > 0 ? reelMenu(desk) : [];
  };

interface HandsOptions {
  desk: ReelDesk;
  snaps: ReadonlySet<SnapKind>;
  inPlace: boolean;
  pick(id: string, seconds: number, how: 'only' | 'add' | 'upTo'): void;
  onDrag(drag: EdgeDrag | null): void;
  onMoving(moving: Moving | null): void;
  onForeign: ReelStripsProps['onForeign'];
}

/** What pieces do, the same for as long as the strips are there, so that only pieces that change are drawn anew. */
function usePieceHands(options: HandsOptions): PieceHands {
  const latest = useLatest(options);
  return useMemo((): PieceHands => {
    const desk = () => latest.current.desk;
    const edit: ReelDesk['live']['edit'] = (command) => desk().live.edit(command);
    return {
      desk,
      snaps: () => latest.current.snaps,
      onPick: (id, share, how) => {
        const segment = desk().segments.find((each) => each.id === id);
        if (!segment) return;
        const length = segment.endSeconds - segment.startSeconds;
        latest.current.pick(id, segment.startSeconds + Math.min(0.999, share) * length, how);
      },
      onLandHere: (id, moved, { side, copy }) => {
        const { segments } = desk();
        const over = segments.findIndex((each) => each.id === id);
        if (over < 0) return;
        const from = segments.findIndex((each) => each.id === moved);
        const to = landedAt(from, over, side);
        if (from < 0) {
          const { startFrame, frames } = segments[over]!;
          latest.current.onForeign?.(moved, side === 'before' ? startFrame : startFrame + frames, copy);
        } else if (to !== from) edit({ type: 'move', clip: moved, to });
      },
      onDrag: (drag) => latest.current.onDrag(drag),
      onMoving: (moving) => latest.current.onMoving(moving),
      onMoved: ({ clip, what, frames }) => {
        const { inPlace } = latest.current;
        edit(
          what === 'roll' || what === 'slip'
            ? { type: what, clip, frames }
            : { type: 'trim', clip, edge: what, frames, ...(inPlace ? { inPlace } : {}) },
        );
      },
    };
  }, [latest]);
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
  // Behind the last piece it is still in the last line.
  const line = lines.findLastIndex((indexes) => time >= segments[indexes[0]!]!.startSeconds);
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
    style={{ width: movedWidth, height }}
  >
    {clip.name}
    <span className="sr-only">, moved to another reel; take it back</span>
  </button>
);
