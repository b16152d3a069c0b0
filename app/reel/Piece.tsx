import { memo } from 'react';
import { decimal } from '#core/sentences';
import type { Run } from '#core/readings';
import type { Difference, Segment, SnapKind } from '#core/reel';
import type { Item } from '#usecases/projects';
import type { Moving } from './CutFrames';
import { Movable, type Landing } from '../hands/Movable';
import { useDraw } from '../hands/useDraw';
import { drawEdge, type EdgeDrag } from './edgeDrag';
import type { ReelDesk } from './useReelDesk';
import { showsPicture, soundGap } from './StripCanvas';
import { soundHeight } from './drawSound';

/** What can be done with a piece, the same for all of them and for as long as the strips are there. */
export interface PieceHands {
  desk(): ReelDesk;
  snaps(): ReadonlySet<SnapKind>;
  /** @param share how far into the piece */
  onPick(id: string, share: number, how: 'only' | 'add' | 'upTo'): void;
  /** Another piece is let go on this one; one of another reel is copied where that was asked for, else moved. */
  onLandHere(id: string, moved: string, landing: Landing): void;
  onDrag(drag: EdgeDrag | null): void;
  onMoving(moving: Moving | null): void;
  onMoved(moving: Moving): void;
}

export interface PieceProps {
  hands: PieceHands;
  segment: Segment;
  item: Item | null;
  runs: readonly Run[];
  /** As it is shown, and as it is when none of its edges is being drawn, in pixels. */
  width: number;
  usualWidth: number;
  height: number;
  selected: boolean;
  also: boolean;
  played: number | null;
  /** The edge of it that is being drawn. */
  drawn: EdgeDrag['edge'] | null;
  /** What another version has otherwise about it. */
  change?: Difference['kind'] | undefined;
}

/** An edit makes all segments anew; what is shown of them changes seldom. */
function showsTheSame(before: PieceProps, after: PieceProps): boolean {
  const { segment: a, ...rest } = before;
  const { segment: b, ...others } = after;
  const names = Object.keys(rest) as (keyof typeof rest)[];
  return (
    names.every((name) => rest[name] === others[name]) &&
    (['id', 'media', 'name', 'frames', 'speed'] as const).every((name) => a[name] === b[name]) &&
    a.clip?.into?.kind === b.clip?.into?.kind &&
    Boolean(a.clip?.steady) === Boolean(b.clip?.steady) &&
    secondsOf(a) === secondsOf(b)
  );
}
const secondsOf = (segment: Segment) => decimal(segment.endSeconds - segment.startSeconds, 1);

const transitionWords = {
  dissolve: 'Dissolve',
  black: 'Dip to black',
  white: 'Dip to white',
  push: 'Push',
  wipe: 'Wipe',
};

const changeNames: Record<Difference['kind'], string> = {
  added: 'new',
  gone: 'goes',
  moved: 'moved',
  trimmed: 'trimmed',
  changed: 'changed',
  reel: '',
};

/** A piece of the main track, over its pictures and its sound; its edges can be drawn, its place changed. */
export const Piece = memo(function Piece({
  hands,
  segment,
  item,
  runs,
  width,
  usualWidth,
  height,
  selected,
  also,
  played,
  drawn,
  change,
}: PieceProps) {
  const { clip } = segment;
  const hasPicture = item !== null && showsPicture(item);
  const edge = useDraw<EdgeDrag['edge']>({
    begin: (_, __, side) =>
      drawEdge(side, { ...hands, clip: segment.id, frames: segment.frames, width: usualWidth, runs }),
    tap: () => hands.desk().setSelectedId(segment.id),
  });
  const length = secondsOf(segment);
  const speed = clip ? speedWords(segment.speed) : '';
  return (
    // All of it takes what is let go, also the edges that are drawn by themselves.
    <Movable
      as="div"
      kind="piece"
      id={segment.id}
      isFixed={segment.media === null}
      handle="button"
      along="row"
      onLand={(moved, landing) => hands.onLandHere(segment.id, moved, landing)}
      className="group relative shrink-0"
      style={{ width, height: height + soundGap + soundHeight }}
    >
      <button
        type="button"
        aria-pressed={selected || also}
        data-piece={segment.id}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          hands.onPick(
            segment.id,
            event.detail === 0 ? 0 : Math.max(0, (event.clientX - box.left) / box.width),
            event.shiftKey ? 'upTo' : event.ctrlKey || event.metaKey ? 'add' : 'only',
          );
        }}
        className={`relative block w-full overflow-hidden rounded ${segment.media === null ? 'border border-dashed border-line' : hasPicture ? '' : 'bg-raised'} ${selected ? 'outline outline-2 outline-offset-1 outline-text' : also ? 'outline outline-2 outline-offset-1 outline-muted' : ''}`}
        style={{ height }}
      >
        <span className="sr-only">
          {segment.media === null ? 'Gap' : segment.name}, {length} seconds{speed && `, ${speed}`}
        </span>
        {!hasPicture && (
          <span className="text-xs text-muted" aria-hidden={segment.media === null}>
            {segment.media === null ? 'gap' : item ? '' : 'missing'}
          </span>
        )}
        {change && <span className="absolute inset-x-0 top-0 h-1 bg-lamp" aria-hidden />}
        {change && (
          <span
            className={
              width > 64 ? 'absolute left-1 top-0 rounded-b bg-lamp px-1.5 text-xs leading-4 text-onlamp' : 'sr-only'
            }
          >
            {changeNames[change]}
          </span>
        )}
        {width > 44 && segment.media !== null && (
          <span
            aria-hidden
            className="absolute bottom-1 left-1 flex max-w-[calc(100%-8px)] gap-1 rounded bg-black/70 px-1.5 text-xs"
          >
            {width > 84 && <span className="truncate">{segment.name}</span>}
            <span className="tabular">{length}</span>
            {speed && width > 120 && <span className="tabular text-camera">{speed}</span>}
          </span>
        )}
        {clip?.steady && width > 60 && (
          <span aria-hidden className="absolute right-1 top-1 rounded bg-black/70 px-1 text-xs text-camera">
            steady
          </span>
        )}
      </button>
      {clip?.into && (
        <span
          className="pointer-events-none absolute -left-2 top-1 z-[1] h-3.5 w-3.5 rotate-45 rounded-[3px] border border-ground bg-text"
          title={transitionWords[clip.into.kind]}
        >
          <span className="sr-only">{transitionWords[clip.into.kind]} before it</span>
        </span>
      )}
      {segment.media !== null &&
        (['in', 'out'] as const).map((side) => (
          <span
            key={side}
            data-edge={`${side} ${segment.id}`}
            {...edge(side)}
            title={side === 'in' ? 'Drag the start; with Alt, the cut' : 'Drag the end'}
            className={`absolute top-0 w-2 cursor-ew-resize touch-none pointer-coarse:w-6 ${side === 'in' ? 'left-0 rounded-l border-l-[3px]' : 'right-0 rounded-r border-r-[3px]'} border-text opacity-0 group-hover:opacity-70 ${drawn === side ? '!opacity-100' : ''}`}
            style={{ height }}
            aria-hidden
          />
        ))}
      {played !== null && (
        <span
          className="pointer-events-none absolute inset-y-0 w-px bg-playhead shadow-[0_0_6px_2px_rgba(255,246,223,0.6)]"
          style={{ left: `${played * 100}%` }}
        />
      )}
    </Movable>
  );
}, showsTheSame);

/** @param speed 1 is as filmed, 0 a frame that is held */
function speedWords(speed: number): string {
  if (speed === 1) return '';
  return speed === 0 ? 'held' : `${Math.round(speed * 100)} %`;
}
