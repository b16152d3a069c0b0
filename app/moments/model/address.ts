import { filterNames, type FilterName } from '#core/moments';
import type { StringOut } from '#core/time';

const views = ['page', 'scenes', 'silence'] as const;
export type PageView = (typeof views)[number];
const orders = ['order', 'name', 'date', 'length', 'score'] as const;
export type PageOrder = (typeof orders)[number];

/** What of the page's state a link holds, besides place and marks. */
export interface PageState {
  view: PageView;
  bin: string | null;
  order: PageOrder;
  show: FilterName;
  person: string | null;
  ask: string;
  secondsPerLine: number | null;
  panel: string;
}

const among = <T extends string>(all: readonly T[], given: string | null, usual: T): T =>
  (all as readonly string[]).includes(given ?? '') ? (given as T) : usual;

const panels = ['why', 'mix', 'words', 'review', 'markers', 'found', 'silence'] as const;

export function readAddress(search: URLSearchParams): PageState {
  const line = Number(search.get('line'));
  return {
    view: among(views, search.get('view'), 'page'),
    bin: search.get('bin'),
    order: among(orders, search.get('order'), 'order'),
    show: among(filterNames, search.get('show'), 'all'),
    person: search.get('person'),
    ask: search.get('ask') ?? '',
    secondsPerLine: line >= 10 && line <= 600 ? line : null,
    panel: among(panels, search.get('panel'), 'why'),
  };
}

/** A place as "file~seconds": it stays the same frame under any filter and order. Plain seconds count from the start. */
export const writePlace = (string: StringOut, time: number): string | null => {
  const place = string.locate(time);
  return place && `${place.id}~${place.seconds.toFixed(3)}`;
};
export function readPlace(string: StringOut, text: string | null): number | null {
  if (/^\d+(\.\d+)?$/.test(text ?? '')) return Math.min(string.total, Number(text));
  const [id, seconds] = (text ?? '').split('~');
  return id && Number.isFinite(Number(seconds)) ? string.timeOf(id, Number(seconds)) : null;
}

/** Writes the address past the router: it is for reload and for sharing, and a navigation would load everything anew. */
export function writeAddress(values: Record<string, string | null>): void {
  const address = new URL(window.location.href);
  for (const [name, value] of Object.entries(values)) {
    if (value === null || value === '') address.searchParams.delete(name);
    else address.searchParams.set(name, value);
  }
  if (address.href !== window.location.href) window.history.replaceState(window.history.state, '', address);
}

/** Steps of seconds a line, for keys; a pinch lands on them as well. */
const lineSteps = [10, 15, 20, 30, 40, 60, 90, 120, 180, 240, 300, 420, 600];
export const nextLineStep = (now: number, direction: 1 | -1): number =>
  (direction > 0 ? lineSteps.find((step) => step > now + 0.01) : lineSteps.findLast((step) => step < now - 0.01)) ??
  now;
