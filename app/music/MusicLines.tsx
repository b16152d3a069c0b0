import { Lock } from 'lucide-react';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type PointerEvent as ReactPointerEvent } from 'react';
import { patternOf, type Every } from '#core/montage';
import { nearestBeat } from '#core/sound';
import { formatClock } from '#core/time';
import { Poster } from '../drawing/Poster';
import { drawMusicLine, tickHeight, waveHeight } from './drawMusic';
import type { MontageDesk } from './useMontage';

export const everyWords = (every: Every): string =>
  every === 'bar' ? 'every bar' : every === 'marks' ? 'on marks' : every === 1 ? 'every beat' : `every ${every} beats`;

const gutter = 56,
  slotHeight = 52;
/** An edge or a mark is drawn to a beat this near, in pixels. */
const snapPixels = 7;

interface MusicLinesProps {
  desk: MontageDesk;
  secondsPerLine: number;
  slot: string | null;
  mark: number | null;
  brush: Every;
  onSlot(id: string | null): void;
  onMark(seconds: number | null): void;
}

/** The music set like text: sections, slots with what fills them, waveform, beats and marks, line after line. */
export function MusicLines({ desk, secondsPerLine, slot, mark, brush, onSlot, onMark }: MusicLinesProps) {
  const { hearing, time } = desk;
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) =>
      setWidth(Math.max(300, Math.floor(entry!.contentRect.width) - gutter)),
    );
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);
  const lines = Math.max(1, Math.ceil(hearing.durationSeconds / secondsPerLine));
  const current = Math.min(lines - 1, Math.floor(time / secondsPerLine));
  const here = useRef<HTMLDivElement>(null);
  useEffect(() => void here.current?.scrollIntoView({ block: 'nearest' }), [current, secondsPerLine]);
  return (
    <div
      ref={frame}
      className="min-h-0 flex-1 overflow-y-auto px-4 pb-4 outline-none"
      role="region"
      aria-label="The music, its beats and slots"
      tabIndex={0}
    >
      {width > 0 &&
        Array.from({ length: lines }, (_, line) => (
          <div key={line} ref={line === current ? here : undefined} className="flex pb-2">
            <span className="tabular w-14 shrink-0 pt-6 text-muted">{formatClock(line * secondsPerLine)}</span>
            <Line
              desk={desk}
              from={line * secondsPerLine}
              to={(line + 1) * secondsPerLine}
              width={width}
              slot={slot}
              mark={mark}
              brush={brush}
              onSlot={onSlot}
              onMark={onMark}
              here={line === current}
            />
          </div>
        ))}
    </div>
  );
}

interface LineProps extends Omit<MusicLinesProps, 'secondsPerLine'> {
  from: number;
  to: number;
  width: number;
  here: boolean;
}

function Line({ desk, from, to, width, slot, mark, brush, onSlot, onMark, here }: LineProps) {
  const { montage, hearing, actions, items, time } = desk;
  const x = (seconds: number) => ((seconds - from) / (to - from)) * width;
  const secondsAt = (event: { clientX: number }, element: Element) =>
    from + ((event.clientX - element.getBoundingClientRect().left) / width) * (to - from);
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const element = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    element.width = width * ratio;
    element.height = (waveHeight + tickHeight) * ratio;
    const context = element.getContext('2d')!;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    drawMusicLine(context, width, { from, to, grid: montage.grid, hearing, doubts: desk.doubts, span: montage.span });
  }, [from, to, width, montage.grid, montage.span, hearing, desk.doubts]);
  const [drawn, setDrawn] = useState<{ what: 'edge' | 'mark'; id: string | number; seconds: number } | null>(null);
  const snapped = (seconds: number, free: boolean): number => {
    const beat = montage.grid.beats[nearestBeat(montage.grid, seconds)];
    return !free && beat !== undefined && Math.abs(x(beat) - x(seconds)) <= snapPixels ? beat : seconds;
  };
  const draw =
    (what: 'edge' | 'mark', id: string | number, start: number, done: (seconds: number) => void) =>
    (event: ReactPointerEvent<HTMLElement>) => {
      if (event.button !== 0) return;
      event.preventDefault();
      event.stopPropagation();
      const target = event.currentTarget;
      const line = target.closest('[data-line]')!;
      target.setPointerCapture(event.pointerId);
      const pressed = event.clientX;
      let seconds = start,
        far = false;
      const move = (each: PointerEvent) => {
        far ||= Math.abs(each.clientX - pressed) > 3;
        if (!far) return;
        seconds = snapped(secondsAt(each, line), each.shiftKey);
        setDrawn({ what, id, seconds });
      };
      const stop = (keep: boolean) => () => {
        target.removeEventListener('pointermove', move);
        target.onpointerup = target.onpointercancel = null;
        setDrawn(null);
        if (keep && far) done(seconds);
        else if (keep && what === 'mark') onMark(start);
      };
      target.addEventListener('pointermove', move);
      target.onpointerup = stop(true);
      target.onpointercancel = stop(false);
    };
  const sections = hearing.sections.flatMap((section, index) =>
    section.end > from && section.start < to ? [{ ...section, index }] : [],
  );
  const slots = montage.slots.filter((each) => each.end > from + 0.001 && each.start < to - 0.001);
  const byId = useMemo(() => new Map(montage.pieces.map((piece) => [piece.id, piece])), [montage.pieces]);
  return (
    <div
      data-line
      className="relative"
      style={{ width, height: 18 + slotHeight + waveHeight + tickHeight }}
      onPointerDown={(event) => {
        if (event.button === 0 && event.target === event.currentTarget.querySelector('canvas[data-wave]'))
          desk.seek(secondsAt(event, event.currentTarget));
      }}
    >
      {sections.map((section) => {
        const left = Math.max(0, x(section.start));
        const every = patternOf(montage.pattern, hearing.sections, section.index, hearing.tempo);
        return (
          <button
            key={section.index}
            type="button"
            data-section={section.index}
            title={`${section.name}: press to cut ${everyWords(brush)} here`}
            onClick={() => actions.paint(section.index, brush)}
            onPointerEnter={(event) => event.buttons === 1 && actions.paint(section.index, brush)}
            className="absolute top-0 flex h-4 items-center gap-1 overflow-hidden whitespace-nowrap border-l-2 border-line pl-1.5 text-left text-xs leading-4 hover:border-text"
            style={{ left, width: Math.max(20, Math.min(width, x(section.end)) - left - 2) }}
          >
            <span className="font-semibold">{section.name}</span>
            <span className="text-muted">
              {everyWords(every)}
              {section.index in montage.pattern.painted && montage.pattern.followEnergy ? ', painted' : ''}
            </span>
          </button>
        );
      })}
      {slots.map((each) => {
        const number = montage.slots.indexOf(each) + 1;
        const start = drawn?.what === 'edge' && drawn.id === each.id ? drawn.seconds : each.start;
        const next = montage.slots[number];
        const end = drawn?.what === 'edge' && drawn.id === next?.id ? drawn.seconds : each.end;
        const left = Math.max(0, x(start)),
          right = Math.min(width, x(end));
        if (right - left < 1) return null;
        const piece = each.piece && byId.get(each.piece.piece);
        const item = piece && items.find((other) => other.id === piece.media);
        return (
          <div key={each.id} className="absolute" style={{ left, width: right - left, top: 18, height: slotHeight }}>
            <button
              type="button"
              data-slot={each.id}
              data-filled={each.piece?.piece}
              aria-pressed={slot === each.id}
              onClick={() => {
                onSlot(each.id);
                desk.toSlot(each);
              }}
              aria-label={`Slot ${number}, ${formatClock(each.start, true)} to ${formatClock(each.end, true)}, ${piece ? piece.name : 'empty'}${each.locked ? ', locked' : ''}`}
              className={`absolute inset-y-0 left-0 overflow-hidden rounded-[3px] ${piece ? 'bg-raised' : 'border border-dashed border-line'} ${slot === each.id ? 'z-10 outline outline-2 outline-lamp' : ''}`}
              style={{ width: Math.max(1, right - left - 1.5) }}
            >
              {piece && item && (
                <Poster
                  media={piece.media}
                  sheets={item.sheets}
                  kind={item.probe?.kind ?? null}
                  seconds={each.piece!.sourceStart + Math.min(0.4, (each.end - each.start) / 2)}
                  width={Math.max(2, right - left - 1.5)}
                  height={slotHeight}
                  className="!rounded-none"
                />
              )}
              {each.locked && (
                <Lock size={11} className="absolute right-1 top-1 text-text drop-shadow-[0_0_2px_#000]" aria-hidden />
              )}
              {each.piece?.speed !== undefined && (
                <span className="tabular absolute bottom-0.5 left-0.5 rounded bg-black/70 px-0.5 text-[11px] leading-3">
                  {each.piece.speed} %
                </span>
              )}
            </button>
            {number > 1 && each.start >= from && (
              <span
                data-edge={each.id}
                title="Draw to move this cut; with Shift freely"
                onPointerDown={draw('edge', each.id, each.start, (seconds) => actions.moveEdge(each.id, seconds))}
                className="absolute inset-y-0 -left-1.5 z-20 w-2.5 cursor-ew-resize touch-none"
              />
            )}
          </div>
        );
      })}
      <canvas
        ref={canvas}
        data-wave
        className="absolute left-0 cursor-pointer"
        style={{ top: 18 + slotHeight, width, height: waveHeight + tickHeight }}
        aria-hidden
      />
      {hearing.drops
        .slice(0, 1)
        .filter((drop) => drop >= from && drop < to)
        .map((drop) => (
          <span
            key={drop}
            title="The music breaks out here"
            className="pointer-events-none absolute rounded-sm bg-ground px-0.5 text-[11px] leading-3 text-sound"
            style={{ left: x(drop) + 3, top: 18 + slotHeight + waveHeight - 10 }}
          >
            drop
          </span>
        ))}
      {montage.marks
        .filter((each) => each >= from && each < to)
        .map((each) => {
          const at = drawn?.what === 'mark' && drawn.id === each ? drawn.seconds : each;
          return (
            <button
              key={each}
              type="button"
              data-mark={each}
              aria-label={`Mark at ${formatClock(each, true)}`}
              aria-pressed={mark === each}
              title="Draw to move; Del takes it away"
              onPointerDown={draw('mark', each, each, (seconds) => {
                actions.marks([...montage.marks.filter((other) => other !== each), seconds].sort((a, b) => a - b));
                onMark(seconds);
              })}
              onKeyDown={(event) => event.key === 'Enter' && onMark(each)}
              className={`absolute z-10 w-2.5 cursor-ew-resize touch-none ${mark === each ? 'outline outline-2 outline-lamp' : ''}`}
              style={{ left: x(at) - 5, top: 18 + slotHeight, height: waveHeight + tickHeight }}
            >
              <span className="mx-auto block h-full w-px bg-motion" />
              <span className="absolute left-0.5 top-0 h-1.5 w-1.5 rotate-45 bg-motion" />
            </button>
          );
        })}
      {here && time >= from && time <= to && (
        <span className="pointer-events-none absolute z-30 w-px bg-text" style={{ left: x(time), top: 14, bottom: 0 }}>
          <span className="absolute -left-[3px] -top-1 h-[7px] w-[7px] rounded-full bg-lamp" />
        </span>
      )}
    </div>
  );
}
