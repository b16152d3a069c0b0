import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';
import pino from 'pino';
import { settings } from '#settings';
import { measureAnswer } from './metrics.server';

const log = pino({ name: 'web', level: settings().LOG_LEVEL });
/** The request that is being answered, by its id. */
const asked = new AsyncLocalStorage<string>();

/** Seconds after which an answer is slow enough to be told of. */
const slowSeconds = 2;
/** Ids that come from a proxy in front of us are taken over when they look like ids. */
const idForm = /^[\w-]{8,64}$/;

/**
 * Gives a request an id, which its answer carries and every line of the log about it has, and tells of answers that are
 * faults, or slow.
 */
export async function logged(request: Request, answer: () => Promise<Response>): Promise<Response> {
  const given = request.headers.get('x-request-id') ?? '';
  const id = idForm.test(given) ? given : randomUUID();
  return asked.run(id, async () => {
    const began = performance.now();
    const response = await answer();
    const seconds = (performance.now() - began) / 1000;
    measureAnswer(request.method, response.status, seconds);
    const about = { request: id, ...whatOf(request), status: response.status, seconds: Number(seconds.toFixed(3)) };
    if (response.status >= 500 && !request.signal.aborted) log.error(about, 'fault');
    else if (seconds > slowSeconds) log.warn(about, 'slow');
    else log.debug(about, 'answered');
    response.headers.set('X-Request-Id', id);
    return response;
  });
}

/** Tells of a fault in a loader, an action or a screen. */
export const logFault = (error: unknown, request: Request): void =>
  log.error({ request: asked.getStore(), ...whatOf(request), err: error }, 'a loader, an action or a screen failed');

const whatOf = ({ method, url }: Request) => ({ method, path: new URL(url).pathname });
