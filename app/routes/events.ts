import { eventHub, projectsNamed, type ProjectEvent } from '#usecases/events';
import type { Route } from './+types/events';

/** So often something is said, so that proxies keep the line. */
const sayMilliseconds = 15_000;
/** After this a line is ended; the browser makes a new one, and whoever is let in is looked at again. */
const mostMilliseconds = 600_000;
/** Projects that one line tells of: as many as a browser has open. */
const mostProjects = 50;
const text = new TextEncoder();

/** What happens to projects, as it happens (server-sent events, WHATWG HTML 9.2): `?project=` once for each. */
export function loader({ request }: Route.LoaderArgs) {
  const projects = projectsNamed(new URL(request.url).searchParams.getAll('project'));
  if (projects.length === 0) return new Response('Say of which project.', { status: 400 });
  if (projects.length > mostProjects) return new Response('These are too many projects.', { status: 400 });
  const headers = {
    'Content-Type': 'text/event-stream; charset=utf-8',
    // Neither kept nor packed: what is told is told at once, by proxies too.
    'Cache-Control': 'no-store, no-transform',
    'X-Accel-Buffering': 'no',
  };
  if (request.method === 'HEAD') return new Response(null, { headers });
  let end = () => undefined as void;
  const body = new ReadableStream<Uint8Array>({
    start(line) {
      const say = (what: string) => void line.enqueue(text.encode(what));
      const tell = ({ what, ...event }: ProjectEvent) => say(`event: ${what}\ndata: ${JSON.stringify(event)}\n\n`);
      const ends = projects.map((project) => eventHub().hear(project, tell));
      const saying = setInterval(() => say(': \n\n'), sayMilliseconds);
      const ending = setTimeout(() => {
        end();
        line.close();
      }, mostMilliseconds);
      end = () => {
        clearInterval(saying);
        clearTimeout(ending);
        for (const each of ends) each?.();
      };
      say('retry: 1000\n\n');
      if (ends.includes(null)) {
        end();
        line.close();
      }
    },
    cancel: () => end(),
  });
  request.signal.addEventListener('abort', () => end(), { once: true });
  return new Response(body, { headers });
}
