import { useState, type PointerEvent as ReactPointerEvent } from 'react';

/** The pointer has to go further than this for something to be drawn, in pixels. */
const farPixels = 3;

/** An edge or a mark on its way, and where it is, in seconds of the music. */
interface Drawn {
  what: 'edge' | 'mark';
  id: string | number;
  seconds: number;
}

interface Drawing extends Drawn {
  onDone(seconds: number): void;
  /** Pressed and let go without being drawn. */
  onPress?: () => void;
}

/**
 * Drawing edges and marks along a line of music.
 * @param secondsAt the second of the music under a pointer; `free` is with Shift
 */
export function useDrawn(secondsAt: (clientX: number, line: Element, free: boolean) => number) {
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const draw =
    ({ what, id, seconds: from, onDone, onPress }: Drawing) =>
    (event: ReactPointerEvent<HTMLElement>) => {
      if (event.button !== 0) return;
      event.preventDefault();
      event.stopPropagation();
      const target = event.currentTarget;
      const line = target.closest('[data-line]')!;
      target.setPointerCapture(event.pointerId);
      const pressed = event.clientX;
      let seconds = from;
      let far = false;
      const move = (each: PointerEvent) => {
        far ||= Math.abs(each.clientX - pressed) > farPixels;
        if (!far) return;
        seconds = secondsAt(each.clientX, line, each.shiftKey);
        setDrawn({ what, id, seconds });
      };
      const stop = (keep: boolean) => () => {
        target.removeEventListener('pointermove', move);
        target.onpointerup = target.onpointercancel = null;
        setDrawn(null);
        if (!keep) return;
        if (far) onDone(seconds);
        else onPress?.();
      };
      target.addEventListener('pointermove', move);
      target.onpointerup = stop(true);
      target.onpointercancel = stop(false);
    };
  /** Where something is now: where it is being drawn to, else where it lies. */
  const whereIs = (what: Drawn['what'], id: string | number | undefined, seconds: number): number =>
    drawn?.what === what && drawn.id === id ? drawn.seconds : seconds;
  return { draw, whereIs };
}
