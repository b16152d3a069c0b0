import type { DragEvent } from 'react';
import type { Footage } from '#core/moments';
import type { Difference, Segment, SnapKind } from '#core/reel';
import type { Item } from '#usecases/projects';
import type { Moving } from './CutFrames';
import { soundHeight } from './drawSound';
import { useEdgeDrag } from './useEdgeDrag';
import { usePieceDrawing } from './usePieceDrawing';
import type { ReelDesk } from './useReelDesk';

export interface PieceProps {
  desk: ReelDesk;
  segment: Segment;
  item: Item | null;
  reading: Footage | null;
  width: number;
  height: number;
  selected: boolean;
  also: boolean;
  played: number | null;
  snaps: ReadonlySet<SnapKind>;
  /** What another version has otherwise about it. */
  change?: Difference['kind'] | undefined;
  onPick(share: number, how: 'only' | 'add' | 'upTo'): void;
  onDropHere(id: string): void;
  onMoving(moving: Moving | null): void;
  onMoved(moving: Moving): void;
}

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

/** A piece of the main track: its pictures, its sound; its edges can be drawn, its place changed. */
export function Piece({
  desk,
  segment,
  item,
  reading,
  width,
  height,
  selected,
  also,
  played,
  snaps,
  change,
  onPick,
  onDropHere,
  onMoving,
  onMoved,
}: PieceProps) {
  const { clip } = segment;
  const { canvas, sound, hasPicture } = usePieceDrawing({ segment, item, reading, width, height });
  const drop = (event: DragEvent) => {
    event.preventDefault();
    const id = event.dataTransfer.getData('text/plain');
    if (id && id !== segment.id) onDropHere(id);
  };
  const { dragged, begin } = useEdgeDrag({ desk, segment, width, runs: reading?.runs ?? [], snaps, onMoving, onMoved });
  const length = (segment.endSeconds - segment.startSeconds).toFixed(1);
  const speed = clip ? speedWords(segment.speed) : '';
  const shown = dragged ? Math.max(6, width + (dragged.edge === 'out' ? dragged.pixels : -dragged.pixels)) : width;
  return (
    <div className="group relative shrink-0" style={{ width: shown }}>
      <button
        type="button"
        draggable={segment.media !== null}
        onDragStart={(event) => event.dataTransfer.setData('text/plain', segment.id)}
        onDragOver={(event) => event.preventDefault()}
        onDrop={drop}
        aria-pressed={selected || also}
        data-piece={segment.id}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          onPick(
            event.detail === 0 ? 0 : Math.max(0, (event.clientX - box.left) / box.width),
            event.shiftKey ? 'upTo' : event.ctrlKey || event.metaKey ? 'add' : 'only',
          );
        }}
        className={`relative block w-full overflow-hidden rounded ${segment.media === null ? 'border border-dashed border-line' : 'bg-raised'} ${selected ? 'outline outline-2 outline-offset-1 outline-text' : also ? 'outline outline-2 outline-offset-1 outline-muted' : ''}`}
        style={{ height }}
      >
        <span className="sr-only">
          {segment.media === null ? 'Gap' : segment.name}, {length} seconds{speed && `, ${speed}`}
        </span>
        {hasPicture ? (
          <canvas ref={canvas} className="absolute inset-0 h-full" style={{ width }} aria-hidden />
        ) : (
          <span className="text-xs text-muted" aria-hidden={segment.media === null}>
            {segment.media === null ? 'gap' : item ? '' : 'missing'}
          </span>
        )}
        {change && <span className="absolute inset-x-0 top-0 h-1 bg-lamp" aria-hidden />}
        {change && (
          <span
            className={
              width > 64 ? 'absolute left-1 top-0 rounded-b bg-lamp px-1.5 text-xs leading-4 text-ground' : 'sr-only'
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
            onPointerDown={begin(side)}
            title={side === 'in' ? 'Draw the start; with Alt, the cut' : 'Draw the end'}
            className={`absolute top-0 w-2 cursor-ew-resize ${side === 'in' ? 'left-0 rounded-l border-l-[3px]' : 'right-0 rounded-r border-r-[3px]'} border-text opacity-0 group-hover:opacity-70 ${dragged?.edge === side ? '!opacity-100' : ''}`}
            style={{ height }}
            aria-hidden
          />
        ))}
      <canvas ref={sound} className="mt-1.5 block" style={{ width, height: soundHeight }} aria-hidden />
      {played !== null && (
        <span
          className="pointer-events-none absolute inset-y-0 w-px bg-[#fff6df] shadow-[0_0_6px_2px_rgba(255,246,223,0.6)]"
          style={{ left: `${played * 100}%` }}
        />
      )}
    </div>
  );
}

/** @param speed 1 is as filmed, 0 a frame that is held */
function speedWords(speed: number): string {
  if (speed === 1) return '';
  return speed === 0 ? 'held' : `${Math.round(speed * 100)} %`;
}
