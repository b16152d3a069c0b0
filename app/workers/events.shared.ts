/** One line to the server for all windows of a browser, which has few lines to one server (RFC 9112, 9.4). */
import { readEvents, type EventsAsked, type EventsTold } from '../ui/eventLine';

declare const self: { onconnect: ((event: MessageEvent) => void) | null };

/** A window that has not said for so long that it is there has gone; hidden ones say it once a minute. */
const goneMilliseconds = 150_000;

interface Window {
  port: MessagePort;
  project: string;
  saidAt: number;
}
const windows = new Set<Window>();
let line: { names: string; end(): void; isOpen: boolean } | null = null;

const tell = (told: EventsTold, to: (window: Window) => boolean = () => true) => {
  for (const window of windows) if (to(window)) window.port.postMessage(told);
};

/** A line that tells of what the windows show; the one that is there when it does. */
function keepLine(): void {
  const projects = [...new Set([...windows].map(({ project }) => project))].sort();
  const names = projects.join();
  if (names === (line?.names ?? '')) return;
  line?.end();
  line = null;
  if (projects.length === 0) return;
  const own = { names, isOpen: false, end: () => undefined as void };
  line = own;
  own.end = readEvents(projects, (told) => {
    if (line !== own) return;
    if (told.what === 'line') own.isOpen = told.isOpen;
    tell(told, ({ project }) => told.what === 'line' || told.project === project);
  });
}

self.onconnect = ({ ports: [port] }) => {
  const window: Window = { port: port!, project: '', saidAt: Date.now() };
  port!.onmessage = ({ data }: MessageEvent<EventsAsked>) => {
    window.saidAt = Date.now();
    if (data.what === 'leave') windows.delete(window);
    else if (window.project !== data.project || !windows.has(window)) {
      window.project = data.project;
      windows.add(window);
      if (line?.isOpen && line.names.split(',').includes(data.project))
        tell({ what: 'line', isOpen: true }, (each) => each === window);
    }
    keepLine();
  };
};
setInterval(() => {
  for (const window of windows) if (Date.now() - window.saidAt > goneMilliseconds) windows.delete(window);
  keepLine();
}, 30_000);
