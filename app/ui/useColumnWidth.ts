import { useSyncExternalStore } from 'react';

/** Of the right column, in pixels: as it is at first, and between which it can be drawn. */
export const columnWidths = { usual: 400, least: 320, most: 1200 } as const;
/** The page keeps at least so much, in pixels. */
const leastPage = 420;
const key = 'width of the column';

const listeners = new Set<() => void>();
/** For a browser that keeps nothing. */
let now: number | null = null;

function read(): number {
  if (now === null) {
    try {
      now = Number(localStorage.getItem(key)) || columnWidths.usual;
    } catch {
      now = columnWidths.usual;
    }
  }
  return now;
}

/** A width that leaves room for the page. */
export const fittingWidth = (wanted: number, screen: number): number =>
  Math.round(Math.max(columnWidths.least, Math.min(wanted, columnWidths.most, screen - leastPage)));

export function setColumnWidth(wanted: number): void {
  now = fittingWidth(wanted, window.innerWidth);
  try {
    localStorage.setItem(key, String(now));
  } catch {
    // It is as wide as it was set until the page is left.
  }
  for (const listener of listeners) listener();
}

/** The picture large, or the column as it is usually. */
export const toggleColumn = (): void =>
  setColumnWidth(read() > columnWidths.usual ? columnWidths.usual : window.innerWidth * 0.55);

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  window.addEventListener('resize', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('resize', listener);
  };
};

/** How wide the right column is on this screen, in pixels; the choice is kept in the browser. */
export const useColumnWidth = (): number =>
  useSyncExternalStore(
    subscribe,
    () => fittingWidth(read(), window.innerWidth),
    () => columnWidths.usual,
  );
