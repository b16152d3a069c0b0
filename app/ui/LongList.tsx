import { useRef, type ReactNode } from 'react';
import { useVirtualList, type VirtualListOptions } from './useVirtualList';

interface LongListProps<Item> extends Omit<VirtualListOptions, 'count' | 'keyOf' | 'covered' | 'whole'> {
  items: readonly Item[];
  keyOf(item: Item): string | number;
  label?: string;
  children(item: Item, index: number): ReactNode;
}

/** A list of any length in the box that scrolls around it: only what is on screen, and something around it, is there. */
export function LongList<Item>({ items, keyOf, label, children, ...rest }: LongListProps<Item>) {
  const list = useRef<HTMLDivElement>(null);
  const { virtual, above } = useVirtualList(list, {
    ...rest,
    count: items.length,
    keyOf: (index) => keyOf(items[index]!),
  });
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
