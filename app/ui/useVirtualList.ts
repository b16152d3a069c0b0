import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useState, type RefObject } from 'react';
import { scrollerOf } from './scrollerOf';

export interface VirtualListOptions {
  count: number;
  keyOf(index: number): string | number;
  /** Usual height of one, in pixels; each is measured once it is there. */
  height: number;
  /** Index of what is scrolled to when it changes, to the middle or just into view; -1 for none. */
  current?: number;
  align?: 'center' | 'auto';
  /** Index of what stays there wherever the list is scrolled to, such as what is being typed into; -1 for none. */
  held?: number;
  /** Pixels at the top of the scroller that something lies over. */
  covered?: number;
  /** A list of at most so many is there whole, so that the browser's own search finds all of it. */
  whole?: number;
}

/**
 * What of a list of any length is there, in the box that scrolls around it: what is on screen, and something around it.
 * @returns the virtualizer, and the pixels that stand above the list in its scroller
 */
export function useVirtualList(
  list: RefObject<HTMLElement | null>,
  { count, keyOf, height, current = -1, align = 'auto', held = -1, covered = 0, whole = 0 }: VirtualListOptions,
) {
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  const [above, setAbove] = useState(0);
  useLayoutEffect(() => setScroller(scrollerOf(list.current)), [list]);
  useLayoutEffect(() => {
    const own = list.current;
    if (!scroller || !own?.parentElement) return;
    const measure = () =>
      setAbove(Math.round(own.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop));
    measure();
    // What stands beside the list changes the box around both.
    const observer = new ResizeObserver(measure);
    observer.observe(own.parentElement);
    return () => observer.disconnect();
  }, [scroller, list]);
  const virtual = useVirtualizer<HTMLElement, HTMLElement>({
    count,
    getScrollElement: () => scroller,
    estimateSize: () => height,
    getItemKey: keyOf,
    overscan: count <= whole ? whole : 8,
    scrollMargin: above,
    scrollPaddingStart: covered,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return held < 0 || held >= count || seen.includes(held) ? seen : [...seen, held].sort((a, b) => a - b);
    },
  });
  useEffect(() => {
    if (current >= 0 && scroller) virtual.scrollToIndex(current, { align });
  }, [current, scroller, virtual, align]);
  return { virtual, above };
}
