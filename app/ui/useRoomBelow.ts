import { useLayoutEffect, useRef, useState, type RefObject } from 'react';
import type { Below } from './Column';
import { useColumnWidth } from './useColumnWidth';
import { fitsBelow } from './roomBelow';

/**
 * Whether the picture takes the room that a short reel or song leaves, and where that is.
 * @param screen the place; in it the pieces bear `data-strips`, all they need lies in their first child
 * @param isPossible not where a second reel lies above
 */
export function useRoomBelow(
  screen: RefObject<HTMLElement | null>,
  size: { width: number; height: number },
  isPossible: boolean,
): Below | null {
  const column = useColumnWidth();
  const [below, setBelow] = useState<Below | null>(null);
  const isThere = useRef(false);
  const { width: across, height: up } = size;
  useLayoutEffect(() => {
    const place = screen.current;
    const main = place?.querySelector('main');
    const strips = main?.querySelector<HTMLElement>('[data-strips]');
    const pieces = strips?.firstElementChild;
    if (!place || !main || !strips || !pieces || !isPossible) {
      isThere.current = false;
      return setBelow(null);
    }
    const measure = () => {
      // Not laid out yet: what room they leave is not known, and a picture that goes there and back moves everything.
      if ((pieces as HTMLElement).offsetHeight === 0) return;
      // On a narrow screen the column lies below the page.
      if (getComputedStyle(place).flexDirection === 'column') {
        isThere.current = false;
        return setBelow(null);
      }
      const { paddingTop, paddingBottom } = getComputedStyle(strips);
      // Before and after the pieces there is a head, and what is proposed or refused.
      const others = [...strips.parentElement!.children].reduce(
        (sum, each) => sum + (each === strips ? 0 : (each as HTMLElement).offsetHeight),
        0,
      );
      const taken = Math.ceil(
        others + (pieces as HTMLElement).offsetHeight + parseFloat(paddingTop) + parseFloat(paddingBottom),
      );
      const room = { width: main.clientWidth, height: place.clientHeight, taken, column };
      isThere.current = fitsBelow(room, { width: across, height: up }, isThere.current);
      setBelow((now) => {
        if (!isThere.current) return null;
        const next = { top: taken, width: room.width, height: room.height - taken };
        const isSame = now && now.top === next.top && now.width === next.width && now.height === next.height;
        return isSame ? now : next;
      });
    };
    const observer = new ResizeObserver(measure);
    for (const each of [place, main, pieces, ...strips.parentElement!.children]) observer.observe(each);
    // A proposal that comes or goes.
    const changes = new MutationObserver(measure);
    changes.observe(strips.parentElement!, { childList: true });
    return () => {
      observer.disconnect();
      changes.disconnect();
    };
  }, [screen, across, up, column, isPossible]);
  return below;
}
