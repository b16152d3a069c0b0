import { useEffect, useLayoutEffect, useRef, useState, type DragEvent } from 'react';
import type { Footage } from '#core/moments';
import type { Segment } from '#core/reel';
import { formatClock, type Rate } from '#core/time';
import { drawFrame, onSheet } from '../page/sheets';
import { useReadings } from '../page/useReadings';
import type { Item } from '../routes/project';
import { drawSound, soundHeight } from './drawSound';

interface ReelStripsProps {
  segments: Segment[];
  rate: Rate;
  itemOf(media: string): Item | null;
  selectedId: string | null;
  time: number;
  onPick(index: number, seconds: number): void;
  onMove(id: string, to: number): void;
}

const gutter = 56;
const stripHeight = 56;

/** A reel set like text: whole pieces wrap from line to line, each as wide as it is long. */
export function ReelStrips({ segments, itemOf, selectedId, time, onPick, onMove }: ReelStripsProps) {
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.max(200, entry!.contentRect.width - gutter - 8)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);
  const total = segments.at(-1)?.endSeconds ?? 0;
  const secondsPerLine = total <= 20 ? 20 : total <= 120 ? 30 : total <= 600 ? 60 : 120;
  const lines = wrap(segments, secondsPerLine);
  const readings = useReadings([...new Set(segments.map((segment) => segment.media))].filter((media) => itemOf(media)?.probe).sort());
  const readingOf = (media: string) => readings?.find((each) => each.id === media) ?? null;
  return (
    <div ref={frame} className="min-h-0 flex-1 overflow-y-auto px-4 pb-6" role="region" aria-label="The reel's pieces">
      {width > 0 && lines.map((line) => (
        <div key={segments[line[0]!]!.id} className="mb-5 flex">
          <span className="tabular w-14 shrink-0 pt-5 text-muted">{formatClock(segments[line[0]!]!.startSeconds)}</span>
          <div className="flex gap-0.5">
            {line.map((index) => {
              const segment = segments[index]!;
              const length = segment.endSeconds - segment.startSeconds;
              return (
                <Piece key={segment.id} segment={segment} item={itemOf(segment.media)} reading={readingOf(segment.media)} width={Math.min(width, Math.max(14, (length / secondsPerLine) * width - 2))} selected={segment.id === selectedId}
                  played={time >= segment.startSeconds && time < segment.endSeconds ? (time - segment.startSeconds) / length : null}
                  onPick={(share) => onPick(index, segment.startSeconds + Math.min(0.999, share) * length)} onDropHere={(id) => onMove(id, index)} />
              );
            })}
          </div>
        </div>
      ))}
    </div>
  );
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

interface PieceProps {
  segment: Segment;
  item: Item | null;
  reading: Footage | null;
  width: number;
  selected: boolean;
  played: number | null;
  onPick(share: number): void;
  onDropHere(id: string): void;
}

function Piece({ segment, item, reading, width, selected, played, onPick, onDropHere }: PieceProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const sheets = item?.sheets ?? null;
  useEffect(() => {
    const draw = () => {
      const context = canvas.current?.getContext('2d');
      if (!context || !sheets) return;
      const ratio = 2;
      canvas.current!.width = width * ratio;
      canvas.current!.height = stripHeight * ratio;
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      const each = (stripHeight * sheets.width) / sheets.height;
      const length = segment.endSeconds - segment.startSeconds;
      for (let x = 0; x < width; x += each) drawFrame(context, segment.media, sheets, segment.sourceSeconds + ((x + each * 0.3) / Math.max(width, each)) * length, x, 0, each, stripHeight);
    };
    draw();
    return onSheet(draw);
  }, [segment, sheets, width]);
  const sound = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = sound.current?.getContext('2d');
    if (!context || !reading) return;
    sound.current!.width = width * 2;
    sound.current!.height = soundHeight * 2;
    context.setTransform(2, 0, 0, 2, 0, 0);
    drawSound(context, width, reading, segment.sourceSeconds, segment.endSeconds - segment.startSeconds);
  }, [reading, segment, width]);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    const id = event.dataTransfer.getData('text/plain');
    if (id && id !== segment.id) onDropHere(id);
  };
  const length = (segment.endSeconds - segment.startSeconds).toFixed(1);
  return (
    <div className="relative shrink-0" style={{ width }}>
      <button type="button" draggable onDragStart={(event) => event.dataTransfer.setData('text/plain', segment.id)} onDragOver={(event) => event.preventDefault()} onDrop={drop}
        aria-pressed={selected} aria-label={`${segment.name}, ${length} seconds`} data-piece={segment.id}
        onClick={(event) => { const box = event.currentTarget.getBoundingClientRect(); onPick(event.detail === 0 ? 0 : Math.max(0, (event.clientX - box.left) / box.width)); }}
        className={`relative block w-full overflow-hidden rounded bg-raised ${selected ? 'outline outline-2 outline-offset-1 outline-text' : ''}`} style={{ height: stripHeight }}>
        {sheets ? <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden /> : <span className="text-xs text-muted">{item ? '' : 'missing'}</span>}
        {width > 44 && (
          <span className="absolute bottom-1 left-1 flex max-w-[calc(100%-8px)] gap-1 rounded bg-black/70 px-1.5 text-xs">
            {width > 84 && <span className="truncate">{segment.name}</span>}
            <span className="tabular">{length}</span>
          </span>
        )}
      </button>
      <canvas ref={sound} className="mt-1.5 block" style={{ width, height: soundHeight }} aria-hidden />
      {played !== null && <span className="pointer-events-none absolute inset-y-0 w-px bg-[#fff6df] shadow-[0_0_6px_2px_rgba(255,246,223,0.6)]" style={{ left: `${played * 100}%` }} />}
    </div>
  );
}
