import { timingSafeEqual } from 'node:crypto';
import { settings } from '#settings';

const loopback = /^(127(\.\d+){3}|localhost|\[::1\])(:\d+)?$/;
/** Methods that change nothing (RFC 9110, 9.2.1). */
const safe = new Set(['GET', 'HEAD', 'OPTIONS']);
/** A montage of an hour is under a megabyte; files come by `/upload`, archives by `/archives`, and both are streamed. */
const mostBytes = 32 * 1024 * 1024;
const streamed = /^\/(upload(\/|$)|archives$)/;

/** A link to look and comment: it lets in by itself, and nowhere else. */
const viewing = /^\/viewing\/[\w-]{32}(\/film\/[\w-]+)?(\.data)?$/;

/**
 * Who may come in, and what may be sent. On loopback: only requests that name this machine, so that a page elsewhere
 * cannot reach the server under a name of its own. On any other address: the password, but for links to look and comment,
 * which have one of their own where that is wished. Pages of other sites may change
 * nothing in either case.
 * @returns the answer to a request that is turned away; null for one that may pass
 */
export function guard(request: Request): Response | null {
  return whoAsks(request) ?? whereFrom(request) ?? howMuch(request);
}

function whoAsks(request: Request): Response | null {
  const host = settings().HOST;
  if (/^(127\.|localhost|::1)/.test(host)) {
    const asked = request.headers.get('host') ?? '';
    return loopback.test(asked) ? null : new Response('Bright Reel answers on 127.0.0.1 only.', { status: 403 });
  }
  const password = settings().BRIGHT_REEL_PASSWORD;
  if (viewing.test(new URL(request.url).pathname)) return null;
  if (!password)
    return new Response('Set BRIGHT_REEL_PASSWORD to use Bright Reel from other machines.', { status: 403 });
  const given = Buffer.from((request.headers.get('authorization') ?? '').replace(/^Basic /, ''), 'base64')
    .toString()
    .split(':')
    .slice(1)
    .join(':');
  const a = Buffer.from(given);
  const b = Buffer.from(password);
  if (a.length === b.length && timingSafeEqual(a, b)) return null;
  return new Response('The password is needed.', {
    status: 401,
    headers: { 'WWW-Authenticate': 'Basic realm="Bright Reel"' },
  });
}

/** A browser says which page a request comes from (RFC 6454; W3C Fetch Metadata); tools outside browsers say nothing. */
function whereFrom(request: Request): Response | null {
  if (safe.has(request.method)) return null;
  const site = request.headers.get('sec-fetch-site');
  const origin = request.headers.get('origin');
  const foreign =
    (site !== null && site !== 'same-origin' && site !== 'none') ||
    (origin !== null && hostOf(origin) !== request.headers.get('host'));
  return foreign ? new Response('Another site may not change anything here.', { status: 403 }) : null;
}

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}

function howMuch(request: Request): Response | null {
  if (safe.has(request.method) || streamed.test(new URL(request.url).pathname)) return null;
  if (request.headers.has('transfer-encoding')) return new Response('Say how long the request is.', { status: 411 });
  const bytes = Number(request.headers.get('content-length') ?? 0);
  return bytes > mostBytes
    ? new Response(`At most ${mostBytes / 1024 / 1024} MB can be sent at once.`, { status: 413 })
    : null;
}
