import { useDrag } from '@use-gesture/react';
import { useEffect, useRef, type HTMLAttributes, type RefObject } from 'react';
import { useLatest } from '../ui/useLatest';

/** Where the pointer is, in pixels of the window, how far it went since it was pressed, and which keys are held. */
export interface DrawPoint {
  clientX: number;
  clientY: number;
  byX: number;
  byY: number;
  shiftKey: boolean;
  altKey: boolean;
}

/** Something that is drawn along, from when the pointer has moved far enough until it is let go. */
export interface Drawing {
  move(at: DrawPoint): void;
  /** Let go: what was shown is done. */
  done(at: DrawPoint): void;
  /** Escape, or the system took the pointer away: all is as it was before. */
  left(): void;
}

interface DrawHands<Of> {
  /** Begins at the place that was pressed; null where nothing can be drawn. */
  begin(press: DrawPoint, element: HTMLElement, of: Of): Drawing | null;
  /** Pressed and let go without being drawn. */
  tap?(press: DrawPoint, element: HTMLElement, of: Of): void;
}

/** Near the upper or lower edge of what scrolls, so many pixels, it goes on by so many a frame at most. */
const edgePixels = 40,
  fastestScroll = 14;

/**
 * The one way to draw with mouse, pen or finger: a press that moves more than three pixels draws, one that does not is a
 * tap, Escape leaves everything as it was, and what scrolls goes on at its edges. Elements that are drawn on say with
 * `touch-action` what a finger may do otherwise.
 * @param scroller what goes on when the pointer comes to its edge
 * @returns handlers for an element; what is given to it comes to `begin` and `tap`
 */
export function useDraw<Of = void>(hands: DrawHands<Of>, scroller?: RefObject<HTMLElement | null>) {
  const latest = useLatest(hands);
  const running = useRef<ReturnType<typeof start> | null>(null);
  useEffect(() => () => running.current?.stop(true), []);
  return useDrag(
    ({ args, xy, initial, first, last, tap, canceled, cancel, event, currentTarget, shiftKey, altKey }) => {
      const [clientX, clientY] = xy;
      const at: DrawPoint = {
        clientX,
        clientY,
        byX: clientX - initial[0],
        byY: clientY - initial[1],
        shiftKey,
        altKey,
      };
      const isTaken = canceled || event.type === 'pointercancel';
      const element = currentTarget as HTMLElement;
      const [of] = args as [Of];
      if (tap) {
        if (!isTaken) latest.current.tap?.(at, element, of);
        return;
      }
      if (first) {
        const press = { ...at, clientX: initial[0], clientY: initial[1], byX: 0, byY: 0 };
        const drawing = latest.current.begin(press, element, of);
        running.current = drawing && start(drawing, scroller?.current ?? null, cancel);
      }
      if (!running.current) return;
      if (!last) return running.current.move(at);
      const { drawing, stop } = running.current;
      running.current = null;
      stop(isTaken);
      if (!isTaken) drawing.done(at);
    },
    // On the window, so that a line that scrolls away does not end what began on it.
    { filterTaps: true, pointer: { capture: false, keys: false } },
  ) as unknown as (...of: Of extends void ? [] : [of: Of]) => HTMLAttributes<HTMLElement>;
}

function start(drawing: Drawing, scroller: HTMLElement | null, cancel: () => void) {
  let last: DrawPoint | null = null;
  let frame = 0;
  let isOver = false;
  const html = document.documentElement;
  html.dataset.drawing = '';
  const escape = (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return;
    event.preventDefault();
    event.stopImmediatePropagation();
    cancel();
    stop(true);
  };
  const goOn = () => {
    frame = 0;
    if (!last || !scroller) return;
    const by = scrollAt(last.clientY, scroller.getBoundingClientRect());
    const before = scroller.scrollTop;
    scroller.scrollTop += by;
    if (scroller.scrollTop === before) return;
    drawing.move(last);
    frame = requestAnimationFrame(goOn);
  };
  const stop = (leave: boolean) => {
    if (isOver) return;
    isOver = true;
    cancelAnimationFrame(frame);
    window.removeEventListener('keydown', escape, true);
    delete html.dataset.drawing;
    if (leave) drawing.left();
  };
  window.addEventListener('keydown', escape, true);
  return {
    drawing,
    stop,
    move(at: DrawPoint) {
      if (isOver) return;
      last = at;
      drawing.move(at);
      if (scroller && frame === 0) frame = requestAnimationFrame(goOn);
    },
  };
}

/** Pixels a frame: more, the nearer to the edge and beyond it. */
function scrollAt(y: number, { top, bottom }: { top: number; bottom: number }): number {
  const up = top + edgePixels - y;
  const down = y - (bottom - edgePixels);
  const depth = Math.max(up, down, 0);
  return Math.sign(down - up) * Math.min(1, depth / edgePixels) * fastestScroll;
}
