import { useEffect, useRef, useState, type DragEvent, type PointerEvent as ReactPointerEvent } from 'react';
import type { Footage } from '#core/moments';
import { snapTrim, type Difference, type Segment, type SnapKind } from '#core/reel';
import { drawFrame, drawPhoto, onSheet } from '../drawing/sheets';
import type { Item } from '#usecases/projects';
import type { Moving } from './CutFrames';
import { drawSound, soundHeight } from './drawSound';
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

/** Edges are drawn to what lies nearer than this, in pixels. */
const snapPixels = 8;

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
  const canvas = useRef<HTMLCanvasElement>(null);
  const sheets = item?.sheets ?? null;
  const photo = item?.probe?.kind === 'photo';
  const { clip } = segment;
  const sourceLength = (segment.endSeconds - segment.startSeconds) * segment.speed;
  useEffect(() => {
    const draw = () => {
      const context = canvas.current?.getContext('2d');
      if (!context || segment.media === null || (!sheets && !photo)) return;
      const ratio = 2;
      canvas.current!.width = width * ratio;
      canvas.current!.height = height * ratio;
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      if (photo || !sheets) {
        // A narrow piece shows the middle of its picture.
        const wide = Math.min(width, (height * 16) / 9);
        for (let x = 0; x < width; x += wide) drawPhoto(context, segment.media, x, 0, wide, height);
        return;
      }
      const each = Math.min(width, (height * sheets.width) / sheets.height);
      for (let x = 0; x < width; x += each)
        drawFrame(
          context,
          segment.media,
          sheets,
          segment.sourceSeconds + ((x + each * 0.3) / Math.max(width, each)) * sourceLength,
          x,
          0,
          each,
          height,
        );
    };
    draw();
    return onSheet(draw);
  }, [segment, sheets, photo, width, height, sourceLength]);
  const sound = useRef<HTMLCanvasElement>(null);
  const silent = segment.gain === 0;
  useEffect(() => {
    const context = sound.current?.getContext('2d');
    if (!context || !reading) return;
    sound.current!.width = width * 2;
    sound.current!.height = soundHeight * 2;
    context.setTransform(2, 0, 0, 2, 0, 0);
    if (!silent) drawSound(context, width, reading, segment.sourceSeconds, sourceLength);
  }, [reading, segment, width, silent, sourceLength]);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    const id = event.dataTransfer.getData('text/plain');
    if (id && id !== segment.id) onDropHere(id);
  };
  const [dragged, setDragged] = useState<{ edge: 'in' | 'out'; pixels: number } | null>(null);
  const edge = (side: 'in' | 'out') => (down: ReactPointerEvent<HTMLSpanElement>) => {
    if (down.button !== 0 || !desk.document || !desk.found) return;
    down.preventDefault();
    down.stopPropagation();
    desk.setSelectedId(segment.id);
    const target = down.currentTarget;
    target.setPointerCapture(down.pointerId);
    const perFrame = width / segment.frames;
    const { document, playFrame } = desk;
    const index = document.tracks[0]!.items.findIndex((each) => each.id === segment.id);
    const found = {
      clip: clip!,
      track: document.tracks[0]!,
      trackIndex: 0,
      index,
      start: segment.startFrame,
      end: segment.startFrame + segment.frames,
    };
    let moving: Moving | null = null;
    const move = (event: PointerEvent) => {
      const wanted = Math.round((event.clientX - down.clientX) / perFrame);
      // With Alt the cut itself moves, and both sides of it are seen.
      const roll = event.altKey && side === 'in';
      const snapped = roll
        ? { frames: wanted, kind: null }
        : snapTrim(
            document,
            found,
            side,
            wanted,
            { playhead: playFrame, beats: desk.beats, runs: reading?.runs ?? [] },
            event.shiftKey ? new Set() : snaps,
            Math.max(1, Math.round(snapPixels / perFrame)),
          );
      moving = { clip: segment.id, what: roll ? 'roll' : side, frames: snapped.frames, snapped: snapped.kind };
      setDragged({ edge: side, pixels: snapped.frames * perFrame });
      onMoving(moving);
    };
    const end = (keep: boolean) => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', escape, true);
      setDragged(null);
      onMoving(null);
      if (keep && moving && moving.frames !== 0) onMoved(moving);
    };
    const up = () => end(true);
    const escape = (event: KeyboardEvent) => {
      if (event.key !== 'Escape') return;
      event.stopPropagation();
      end(false);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', up, { once: true });
    window.addEventListener('keydown', escape, true);
  };
  const length = (segment.endSeconds - segment.startSeconds).toFixed(1);
  const speed =
    !clip || segment.speed === 1 ? '' : segment.speed === 0 ? 'held' : `${Math.round(segment.speed * 100)} %`;
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
        {sheets || photo ? (
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
            onPointerDown={edge(side)}
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
