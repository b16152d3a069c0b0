import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { formatClock, type Range, type StringOut } from '#core/time';
import { counted } from '#core/sentences';
import { lineHeight, stripHeight, type LineFile } from '../drawing/drawLine';
import { StripLine } from './StripLine';
import { useDraw } from '../hands/useDraw';
import { ContextMenu, type MenuEntry } from '../ui/ContextMenu';
import { useLatest } from '../ui/useLatest';

/** An edge on its way, let go, or put back by Escape. */
export type TrimStep = 'moving' | 'done' | 'left';

export interface PageProps {
  string: StringOut;
  files: LineFile[];
  secondsPerLine: number;
  /** In the string's time. */
  playhead: number;
  marked: Range | null;
  selected: Range | null;
  /** Edges that can be dragged, in the string's time. */
  edges: number[];
  onHover(time: number | null): void;
  onPoint(time: number): void;
  onMark(range: Range | null): void;
  onTrim(edge: number, time: number, how: TrimStep): void;
  /** A pinch on a trackpad, or the wheel with Ctrl: over 1 for more seconds a line. */
  onPinch(factor: number): void;
  /** What can be done at a time, or where the playhead is. */
  menuAt(time: number | null): readonly MenuEntry[];
}

const gutter = 56;
const grabPixels = 5;

/** Footage set like text: strips of equal length wrap down a scrolling page. */
export function Page(props: PageProps) {
  const { string, files, secondsPerLine, playhead } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const lines = string.lineCount(secondsPerLine);
  const virtual = useVirtualizer({
    count: lines,
    getScrollElement: () => scroller.current,
    estimateSize: () => lineHeight,
    overscan: 3,
    paddingStart: 8,
    paddingEnd: 16,
  });
  const scrollToIndex = virtual.scrollToIndex;

  useEffect(() => {
    const element = scroller.current!;
    const observer = new ResizeObserver(() => setWidth(Math.max(100, element.clientWidth - gutter - 32)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const playLine = Math.min(lines - 1, Math.floor(playhead / secondsPerLine));
  useEffect(() => void scrollToIndex(playLine), [playLine, scrollToIndex]);

  const pinched = useLatest(props.onPinch);
  useEffect(() => {
    const element = scroller.current!;
    // React's own wheel listeners cannot keep the browser from enlarging the whole screen.
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      pinched.current(Math.exp(event.deltaY / 180));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [pinched]);
  const hands = useHands(props, width, scroller);
  return (
    <ContextMenu
      label="What can be done here"
      entriesAt={(target, event) => {
        const line = target.closest<HTMLElement>('[data-line]');
        return props.menuAt(line && hands.timeAt(event, line));
      }}
    >
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-y-auto"
        role="region"
        aria-label="Footage, end to end"
        tabIndex={0}
      >
        <div className="relative mx-4" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => (
            <div key={index} className="absolute left-0 right-0 flex" style={{ top: start, height: lineHeight }}>
              <span className="tabular w-14 shrink-0 pt-3.5 text-muted">{formatClock(index * secondsPerLine)}</span>
              <div
                className="relative cursor-crosshair touch-pan-y"
                style={{ width, height: lineHeight }}
                data-line={index}
                {...hands.of()}
              >
                <Line {...props} index={index} width={width} />
                <Overlays {...props} index={index} width={width} />
              </div>
            </div>
          ))}
        </div>
        <span className="sr-only">{counted(files.length, 'file')}</span>
      </div>
    </ContextMenu>
  );
}

function Line({
  string,
  files,
  secondsPerLine,
  index,
  width,
}: Pick<PageProps, 'string' | 'files' | 'secondsPerLine'> & { index: number; width: number }) {
  const parts = useMemo(() => string.line(index, secondsPerLine), [string, index, secondsPerLine]);
  return <StripLine parts={parts} files={files} width={width} />;
}

/** Playhead, marked and selected range: light elements over the canvas, so that moving them draws nothing anew. */
function Overlays({
  secondsPerLine,
  index,
  width,
  playhead,
  marked,
  selected,
}: PageProps & { index: number; width: number }) {
  const from = index * secondsPerLine;
  const place = (time: number) => ((time - from) / secondsPerLine) * width;
  const bracket = (range: Range | null, look: string, name: string) => {
    if (!range || range.end <= from || range.start >= from + secondsPerLine) return null;
    const open = range.start < from;
    const beyond = range.end > from + secondsPerLine;
    const left = open ? 0 : place(range.start);
    const right = beyond ? width : place(range.end);
    return (
      <div
        key={name}
        data-range={name}
        className={`pointer-events-none absolute rounded-[3px] border-y ${open ? '' : 'border-l-2'} ${beyond ? '' : 'border-r-2'} ${look}`}
        style={{ left, width: Math.max(2, right - left), top: -3, height: lineHeight - 2 }}
      />
    );
  };
  const here =
    playhead >= from && (playhead < from + secondsPerLine || (playhead === from + secondsPerLine && width > 0));
  return (
    <>
      {bracket(selected, 'border-text/80 bg-text/5', 'selected')}
      {bracket(marked, 'border-text bg-text/15', 'marked')}
      {here && (
        <div
          className="pointer-events-none absolute"
          style={{ left: place(playhead) - 0.5, top: -2, height: lineHeight - 4 }}
          data-testid="playhead"
        >
          <div className="h-full w-px bg-text" />
          <div className="absolute -left-1 -top-1 h-2.5 w-2.5 rounded-full bg-playhead shadow-[0_0_8px_3px_rgba(255,246,223,0.55)]" />
        </div>
      )}
    </>
  );
}

/** Hover scrubs, click sets the playhead, drag marks, dragging an edge of a kept moment resizes it. */
function useHands(
  { secondsPerLine, string, edges, marked, onHover, onPoint, onMark, onTrim }: PageProps,
  width: number,
  scroller: RefObject<HTMLDivElement | null>,
) {
  const isDrawing = useRef(false);
  /** Of the line under the pointer; beside all of them, of the one given. */
  const timeAt = (at: { clientX: number; clientY: number }, line: HTMLElement) => {
    const element = document.elementFromPoint(at.clientX, at.clientY)?.closest<HTMLElement>('[data-line]') ?? line;
    const index = Number(element.dataset.line);
    const share = Math.min(1, Math.max(0, (at.clientX - element.getBoundingClientRect().left) / Math.max(1, width)));
    return Math.min(string.total, (index + share) * secondsPerLine);
  };
  const reach = (grabPixels / Math.max(1, width)) * secondsPerLine;
  const draw = useDraw(
    {
      begin: (press, line) => {
        const start = timeAt(press, line);
        const inStrip = press.clientY - line.getBoundingClientRect().top < stripHeight + 6;
        const edge = inStrip ? edges.find((each) => Math.abs(each - start) < reach) : undefined;
        isDrawing.current = true;
        const end = () => {
          isDrawing.current = false;
          onHover(null);
        };
        return {
          move: (at) => {
            const time = timeAt(at, line);
            if (edge !== undefined) onTrim(edge, time, 'moving');
            else onMark({ start: Math.min(start, time), end: Math.max(start, time) });
            onHover(time);
          },
          done: (at) => {
            end();
            if (edge !== undefined) onTrim(edge, timeAt(at, line), 'done');
          },
          left: () => {
            end();
            if (edge !== undefined) onTrim(edge, edge, 'left');
            else onMark(marked);
          },
        };
      },
      tap: (press, line) => onPoint(timeAt(press, line)),
    },
    scroller,
  );
  const hover = {
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      const time = timeAt(event, event.currentTarget);
      event.currentTarget.style.cursor = edges.some((edge) => Math.abs(edge - time) < reach) ? 'ew-resize' : '';
      if (!isDrawing.current) onHover(time);
    },
    onPointerLeave: () => !isDrawing.current && onHover(null),
  };
  return { of: () => ({ ...draw(), ...hover }), timeAt };
}
