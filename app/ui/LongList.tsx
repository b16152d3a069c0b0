import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { scrollerOf } from './scrollerOf';

interface LongListProps<Item> {
  items: readonly Item[];
  keyOf(item: Item): string | number;
  /** Usual height of one, in pixels; each is measured once it is there. */
  height: number;
  /** Index of what is scrolled to when it changes, to the middle or just into view; -1 for none. */
  current?: number;
  align?: 'center' | 'auto';
  /** Index of what stays there wherever the list is scrolled to, such as what is being typed into; -1 for none. */
  held?: number;
  label?: string;
  children(item: Item, index: number): ReactNode;
}

/** A list of any length in the box that scrolls around it: only what is on screen, and something around it, is there. */
export function LongList<Item>({
  items,
  keyOf,
  height,
  current = -1,
  align = 'auto',
  held = -1,
  label,
  children,
}: LongListProps<Item>) {
  const list = useRef<HTMLDivElement>(null);
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  /** What stands over the list in its scroller, in pixels. */
  const [above, setAbove] = useState(0);
  useLayoutEffect(() => setScroller(scrollerOf(list.current)), []);
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
  }, [scroller]);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller,
    estimateSize: () => height,
    getItemKey: (index) => keyOf(items[index]!),
    overscan: 8,
    scrollMargin: above,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return held < 0 || held >= items.length || seen.includes(held) ? seen : [...seen, held].sort((a, b) => a - b);
    },
  });
  useEffect(() => {
    if (current >= 0 && scroller) virtual.scrollToIndex(current, { align });
  }, [current, scroller, virtual, align]);
  return (
    <div
      ref={list}
      role="list"
      aria-label={label}
      className="relative shrink-0"
      style={{ height: virtual.getTotalSize() }}
    >
      {virtual.getVirtualItems().map(({ index, key, start }) => (
        <div
          key={key}
          ref={virtual.measureElement}
          role="listitem"
          aria-posinset={index + 1}
          aria-setsize={items.length}
          data-index={index}
          className="absolute inset-x-0 top-0"
          style={{ transform: `translateY(${start - above}px)` }}
        >
          {children(items[index]!, index)}
        </div>
      ))}
    </div>
  );
}
