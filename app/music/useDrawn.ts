import { useState } from 'react';
import { useDraw } from '../hands/useDraw';

/** An edge or a mark on its way, and where it is, in seconds of the music. */
interface Drawn {
  what: 'edge' | 'mark';
  id: string | number;
  seconds: number;
}

/** What can be drawn, and what is done with it. */
export interface DrawnThing extends Drawn {
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
  const draw = useDraw<DrawnThing>({
    begin: (_, element, { what, id, seconds: from, onDone }) => {
      const line = element.closest('[data-line]')!;
      let seconds = from;
      return {
        move: ({ clientX, shiftKey }) => {
          seconds = secondsAt(clientX, line, shiftKey);
          setDrawn({ what, id, seconds });
        },
        done: () => {
          setDrawn(null);
          onDone(seconds);
        },
        left: () => setDrawn(null),
      };
    },
    tap: (_, __, { onPress }) => onPress?.(),
  });
  /** Where something is now: where it is being drawn to, else where it lies. */
  const whereIs = (what: Drawn['what'], id: string | number | undefined, seconds: number): number =>
    drawn?.what === what && drawn.id === id ? drawn.seconds : seconds;
  return { draw, whereIs };
}
