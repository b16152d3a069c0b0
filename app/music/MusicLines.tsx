import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { patternOf, type Every } from '#core/montage';
import { nearestBeat, type BeatGrid } from '#core/sound';
import { formatClock } from '#core/time';
import { drawMusicLine, tickHeight, waveHeight } from './drawMusic';
import { everyWords } from './everyWords';
import { MarkHandle, SectionButton, sectionHeight, SlotBox, slotHeight } from './LineParts';
import { useDrawn } from './useDrawn';
import { useDraw, type DrawPoint } from '../hands/useDraw';
import { ContextMenu, type MenuEntry } from '../ui/ContextMenu';
import { useShade } from '../ui/shade';
import { useInnerWidth } from '../ui/useInnerWidth';
import type { MontageDesk } from './useMontage';

const gutter = 56;
/** Of a line and the room below it, in pixels. */
const lineHeight = sectionHeight + slotHeight + waveHeight + tickHeight;
const lineGap = 8;
/** Music of so many lines is there whole; of longer pieces so many lines beyond the screen. */
const fewLines = 10;
const linesAround = 2;
/** An edge or a mark is drawn to a beat this near, in pixels. */
const snapPixels = 7;

interface MusicLinesProps {
  desk: MontageDesk;
  /** The beats that are drawn: those of the montage, or of a count that is heard. */
  grid: BeatGrid;
  secondsPerLine: number;
  slot: string | null;
  mark: number | null;
  brush: Every;
  /** No higher than its lines: the picture takes the room below. */
  isTight: boolean;
  onSlot(id: string | null): void;
  onMark(seconds: number | null): void;
}

/** The music set like text: sections, slots with what fills them, waveform, beats and marks, line after line. */
export function MusicLines({
  desk,
  grid,
  secondsPerLine,
  slot,
  mark,
  brush,
  isTight,
  onSlot,
  onMark,
}: MusicLinesProps) {
  const { hearing, time } = desk;
  const frame = useRef<HTMLDivElement>(null);
  const inner = useInnerWidth(frame);
  const width = inner && Math.max(300, Math.floor(inner) - gutter);
  const lines = Math.max(1, Math.ceil(hearing.durationSeconds / secondsPerLine));
  const current = Math.min(lines - 1, Math.floor(time / secondsPerLine));
  const virtual = useVirtualizer({
    count: width > 0 ? lines : 0,
    getScrollElement: () => frame.current,
    estimateSize: () => lineHeight + lineGap,
    overscan: lines <= fewLines ? fewLines : linesAround,
  });
  useEffect(() => virtual.scrollToIndex(current, { align: 'auto' }), [current, secondsPerLine, virtual]);
  return (
    <ContextMenu
      label="What can be done with the slot"
      entriesAt={(target) => {
        const id = target.closest<HTMLElement>('[data-slot]')?.dataset.slot;
        if (id) onSlot(id);
        return id || slot ? slotMenu : [];
      }}
    >
      <div
        ref={frame}
        data-strips
        className={`min-h-0 overflow-y-auto px-4 pb-4 outline-none ${isTight ? 'shrink-0' : 'flex-1'}`}
        role="region"
        aria-label="The music, its beats and slots"
        tabIndex={0}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: line, key, start }) => (
            <div
              key={key}
              className="absolute inset-x-0 top-0 flex"
              style={{ transform: `translateY(${start}px)`, height: lineHeight + lineGap }}
            >
              <span className="tabular w-14 shrink-0 pt-6 text-muted">{formatClock(line * secondsPerLine)}</span>
              <Line
                desk={desk}
                grid={grid}
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
      </div>
    </ContextMenu>
  );
}

const slotMenu: readonly MenuEntry[] = [
  { command: 'swapSlot' },
  { command: 'swapSlotBack' },
  { command: 'lockSlot' },
  'line',
  { command: 'splitSlot' },
  { command: 'joinSlot' },
  { command: 'nudgeBack' },
  { command: 'nudgeOn' },
  'line',
  { command: 'fillAgain' },
  { command: 'tapMark' },
];

interface LineProps extends Omit<MusicLinesProps, 'secondsPerLine' | 'isTight'> {
  from: number;
  to: number;
  width: number;
  here: boolean;
}

/** A stroke paints every section that it comes over, once. */
const useStroke = (paint: (section: number) => void) =>
  useDraw<number>({
    begin: (_, __, first) => {
      const painted = new Set<number>();
      const over = (section: number) => {
        if (!painted.has(section)) paint(section);
        painted.add(section);
      };
      return {
        move: ({ clientX, clientY }) => {
          over(first);
          const under = document.elementFromPoint(clientX, clientY)?.closest<HTMLElement>('[data-section]');
          if (under) over(Number(under.dataset.section));
        },
        done: () => undefined,
        left: () => undefined,
      };
    },
  });

function Line({ desk, grid, from, to, width, slot, mark, brush, onSlot, onMark, here }: LineProps) {
  const { montage, hearing, actions, items, time } = desk;
  const x = (seconds: number) => ((seconds - from) / (to - from)) * width;
  const secondsAt = (event: { clientX: number }, element: Element) =>
    from + ((event.clientX - element.getBoundingClientRect().left) / width) * (to - from);
  const canvas = useRef<HTMLCanvasElement>(null);
  const shade = useShade();
  useLayoutEffect(() => {
    const element = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    element.width = width * ratio;
    element.height = (waveHeight + tickHeight) * ratio;
    const context = element.getContext('2d')!;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    drawMusicLine(context, width, { from, to, grid, hearing, doubts: desk.doubts, span: montage.span });
  }, [from, to, width, grid, montage.span, hearing, desk.doubts, shade]);
  const { draw, whereIs } = useDrawn((clientX, element, free) => {
    const seconds = secondsAt({ clientX }, element);
    const beat = montage.grid.beats[nearestBeat(montage.grid, seconds)];
    return !free && beat !== undefined && Math.abs(x(beat) - x(seconds)) <= snapPixels ? beat : seconds;
  });
  const seekTo = ({ clientX }: DrawPoint, element: HTMLElement) => desk.seek(secondsAt({ clientX }, element));
  // The playhead follows along the waveform.
  const scrub = useDraw({
    begin: (_, element) => ({
      move: (at) => seekTo(at, element),
      done: (at) => seekTo(at, element),
      left: () => desk.seek(time),
    }),
    tap: seekTo,
  });
  const stroke = useStroke((index) => actions.paint(index, brush));
  const sections = hearing.sections.flatMap((section, index) =>
    section.end > from && section.start < to ? [{ ...section, index }] : [],
  );
  const slots = montage.slots.filter((each) => each.end > from + 0.001 && each.start < to - 0.001);
  const moveMark = (from: number) => (seconds: number) => {
    actions.marks([...montage.marks.filter((other) => other !== from), seconds].sort((a, b) => a - b));
    onMark(seconds);
  };
  const byId = useMemo(() => new Map(montage.pieces.map((piece) => [piece.id, piece])), [montage.pieces]);
  const itemOf = useMemo(() => new Map(items.map((item) => [item.id, item])), [items]);
  return (
    <div data-line className="relative" style={{ width, height: lineHeight }}>
      {sections.map((section) => {
        const left = Math.max(0, x(section.start));
        const every = everyWords(patternOf(montage.pattern, hearing.sections, section.index, hearing.tempo));
        const painted = section.index in montage.pattern.painted && montage.pattern.followEnergy;
        return (
          <SectionButton
            key={section.index}
            index={section.index}
            name={section.name}
            every={painted ? `${every}, painted` : every}
            brush={everyWords(brush)}
            left={left}
            width={Math.max(20, Math.min(width, x(section.end)) - left - 2)}
            stroke={stroke(section.index)}
            onPaint={() => actions.paint(section.index, brush)}
          />
        );
      })}
      {slots.map((each) => {
        const number = montage.slots.indexOf(each) + 1;
        const next = montage.slots[number];
        const left = Math.max(0, x(whereIs('edge', each.id, each.start)));
        const right = Math.min(width, x(whereIs('edge', next?.id, each.end)));
        if (right - left < 1) return null;
        const piece = (each.piece && byId.get(each.piece.piece)) ?? null;
        const onDone = (seconds: number) => actions.moveEdge(each.id, seconds);
        return (
          <SlotBox
            key={each.id}
            slot={each}
            number={number}
            piece={piece}
            item={(piece && itemOf.get(piece.media)) ?? null}
            chosen={slot === each.id}
            left={left}
            right={right}
            onPick={() => {
              onSlot(each.id);
              desk.toSlot(each);
            }}
            onEdge={
              number > 1 && each.start >= from ? draw({ what: 'edge', id: each.id, seconds: each.start, onDone }) : null
            }
          />
        );
      })}
      <canvas
        ref={canvas}
        data-wave
        {...scrub()}
        className="absolute left-0 cursor-pointer touch-pan-y"
        style={{ top: sectionHeight + slotHeight, width, height: waveHeight + tickHeight }}
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
            style={{ left: x(drop) + 3, top: sectionHeight + slotHeight + waveHeight - 10 }}
          >
            drop
          </span>
        ))}
      {montage.marks
        .filter((each) => each >= from && each < to)
        .map((each) => (
          <MarkHandle
            key={each}
            mark={each}
            chosen={mark === each}
            left={x(whereIs('mark', each, each))}
            onDraw={draw({
              what: 'mark',
              id: each,
              seconds: each,
              onDone: moveMark(each),
              onPress: () => onMark(each),
            })}
            onChoose={() => onMark(each)}
          />
        ))}
      {here && time >= from && time <= to && (
        <span className="pointer-events-none absolute z-30 w-px bg-text" style={{ left: x(time), top: 14, bottom: 0 }}>
          <span className="absolute -left-[3px] -top-1 h-[7px] w-[7px] rounded-full bg-lamp" />
        </span>
      )}
    </div>
  );
}
