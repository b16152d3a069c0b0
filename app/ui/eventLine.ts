import type { ProjectEvent } from '#usecases/events';

/** What a window says to the one that keeps the line. */
export type EventsAsked = { what: 'show'; project: string } | { what: 'leave' };
/** What it hears: events, and whether the line is there. */
export type EventsTold = ProjectEvent | { what: 'line'; isOpen: boolean };

/**
 * Reads the events of projects; a line that breaks is made anew by the browser.
 * @returns ends it
 */
export function readEvents(projects: readonly string[], tell: (told: EventsTold) => void): () => void {
  const source = new EventSource(`/events?${projects.map((project) => `project=${project}`).join('&')}`);
  const read = (what: 'tasks' | 'changed') =>
    source.addEventListener(what, ({ data }: MessageEvent<string>) =>
      tell({ what, ...(JSON.parse(data) as object) } as ProjectEvent),
    );
  read('tasks');
  read('changed');
  let again: ReturnType<typeof setTimeout> | undefined;
  let inner = () => undefined as void;
  source.addEventListener('open', () => tell({ what: 'line', isOpen: true }));
  source.addEventListener('error', () => {
    tell({ what: 'line', isOpen: false });
    // A browser gives up a line that was answered otherwise than by events, such as by a server that has no database.
    if (source.readyState === EventSource.CLOSED && !again)
      again = setTimeout(() => (inner = readEvents(projects, tell)), 5000);
  });
  return () => {
    source.close();
    clearTimeout(again);
    inner();
  };
}

/** So often a window says that it is there. */
const hereMilliseconds = 30_000;

/**
 * Hears the events of a project over the line that all windows of the browser share; where a browser has no workers that
 * windows share, over one of its own while it is seen.
 * @returns ends it
 */
export function joinLine(project: string, hear: (told: EventsTold) => void): () => void {
  if (typeof SharedWorker === 'undefined') return whileSeen(() => readEvents([project], hear));
  const worker = new SharedWorker(new URL('../workers/events.shared.ts', import.meta.url), {
    type: 'module',
    name: 'events',
  });
  const say = (asked: EventsAsked) => worker.port.postMessage(asked);
  worker.port.onmessage = ({ data }: MessageEvent<EventsTold>) => hear(data);
  const show = () => say({ what: 'show', project });
  const leave = () => say({ what: 'leave' });
  show();
  const saying = setInterval(show, hereMilliseconds);
  // A page that is left may be kept by the browser and come back as it was.
  window.addEventListener('pagehide', leave);
  window.addEventListener('pageshow', show);
  return () => {
    window.removeEventListener('pagehide', leave);
    window.removeEventListener('pageshow', show);
    clearInterval(saying);
    leave();
    worker.port.close();
  };
}

/** Does something while the window is seen. @param begin returns what ends it */
function whileSeen(begin: () => () => void): () => void {
  let end: (() => void) | null = null;
  const look = () => {
    if (document.hidden) {
      end?.();
      end = null;
    } else end ??= begin();
  };
  look();
  document.addEventListener('visibilitychange', look);
  return () => {
    document.removeEventListener('visibilitychange', look);
    end?.();
  };
}
