import { hostname } from 'node:os';
import { redirect } from 'react-router';
import { tellPassword } from '#usecases/entrance';
import { settings } from '#settings';
import { sessionOf } from './session.server';

const loopback = /^(127(\.\d+){3}|localhost|\[::1\])$/;
/** Nobody else reaches it: it listens on loopback, and no proxy there passes on what is asked under other names. */
const isHereOnly = (): boolean => {
  const { HOST, BRIGHT_REEL_HOSTS } = settings();
  return /^(127\.|localhost|::1)/.test(HOST) && BRIGHT_REEL_HOSTS.length === 0;
};
/** Whether whoever comes is asked for the password. */
export const asksPassword = (): boolean => !isHereOnly() && Boolean(settings().BRIGHT_REEL_PASSWORD);
/** An address, which no name server can turn into another one. */
const address = /^(\d+(\.\d+){3}|\[[\da-f:.]+\])$/i;

/** Methods that change nothing (RFC 9110, 9.2.1). */
const safe = new Set(['GET', 'HEAD', 'OPTIONS']);
export const changesNothing = ({ method }: Request): boolean => safe.has(method);
/** Files come by `/upload`, archives by `/archives`, and both are streamed. */
const streamed = /^\/(upload(\/|$)|archives$)/;
const megabyte = 1024 * 1024;
/** The most that is sent at once; a montage of an hour is under a megabyte. */
const bodyLimits: [path: RegExp, bytes: number][] = [
  // Documents of other programs, subtitles and tables of colours.
  [/\/(reels\/import|words|looks|edits|montage)(\.data)?$/, 16 * megabyte],
  [/^\/(viewing|enter)(\/|\.data|$)/, megabyte / 16],
];
const usualLimit = 4 * megabyte;
/** What a body may be. A page elsewhere can send plain text without asking; nothing of ours does. */
const bodyTypes =
  /^(application\/(json|x-www-form-urlencoded|offset\+octet-stream|zip|octet-stream)|multipart\/form-data)\s*(;|$)/i;

/** A link to look and comment: it lets in by itself, and nowhere else. */
const viewing = /^\/viewing\/[\w-]{32}(\/film\/[\w-]+)?(\.data)?$/;
/** What answers without the password. */
const open = /^\/(health|ready|enter(\.data)?)$/;

const turnedAway = (status: number, sentence: string, headers: HeadersInit = {}) =>
  new Response(sentence, { status, headers: { 'Content-Type': 'text/plain; charset=utf-8', ...headers } });

/**
 * Who may come in, and what may be sent. On loopback, where no other names are set: only requests that name this
 * machine, so that a page elsewhere cannot reach the server under a name of its own. On any other address: a session or the password, but for links to look
 * and comment, which have one of their own where that is wished. Pages of other sites may change nothing and load nothing
 * in either case.
 * @returns the answer to a request that is turned away; null for one that may pass
 */
export async function guard(request: Request): Promise<Response | null> {
  return forWhom(request) ?? whereFrom(request) ?? whatIsSent(request) ?? (await whoAsks(request));
}

/** Under which name it is asked: a foreign one may lead to this machine all the same. */
function forWhom(request: Request): Response | null {
  const asked = request.headers.get('host') ?? '';
  const name = asked.replace(/:\d+$/, '').toLowerCase();
  if (isHereOnly()) return loopback.test(name) ? null : turnedAway(403, 'Bright Reel answers on 127.0.0.1 only.');
  const own = hostname().toLowerCase();
  const names = ['localhost', own, `${own}.local`, ...settings().BRIGHT_REEL_HOSTS.map((each) => each.toLowerCase())];
  return address.test(name) || names.includes(name) || names.includes(asked.toLowerCase())
    ? null
    : turnedAway(403, 'Bright Reel does not go by this name. Whoever runs it can allow it with BRIGHT_REEL_HOSTS.');
}

/** A browser says which page a request comes from (RFC 6454; W3C Fetch Metadata); tools outside browsers say nothing. */
function whereFrom(request: Request): Response | null {
  const site = request.headers.get('sec-fetch-site');
  const origin = request.headers.get('origin');
  const foreign = site !== null && site !== 'same-origin' && site !== 'none';
  if (changesNothing(request)) {
    // A link elsewhere may lead here; a picture, a script or a frame there may not.
    const mode = request.headers.get('sec-fetch-mode');
    const frame = /^(i?frame|object|embed)$/.test(request.headers.get('sec-fetch-dest') ?? '');
    return foreign && (mode !== 'navigate' || frame) ? turnedAway(403, 'Another site may not use what is here.') : null;
  }
  return foreign || (origin !== null && hostOf(origin) !== request.headers.get('host'))
    ? turnedAway(403, 'Another site may not change anything here.')
    : null;
}

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}

function whatIsSent(request: Request): Response | null {
  if (changesNothing(request)) return null;
  const { pathname } = new URL(request.url);
  const { headers } = request;
  const bytes = Number(headers.get('content-length') ?? 0);
  const has = bytes > 0 || headers.has('transfer-encoding');
  if (has && !bodyTypes.test(headers.get('content-type') ?? ''))
    return turnedAway(415, 'What is sent is of a kind that is not known here.');
  if (streamed.test(pathname)) return null;
  if (headers.has('transfer-encoding')) return turnedAway(411, 'Say how long the request is.');
  const most = bodyLimits.find(([path]) => path.test(pathname))?.[1] ?? usualLimit;
  return bytes > most
    ? turnedAway(413, `At most ${Math.max(1, Math.round(most / megabyte))} MB can be sent at once here.`)
    : null;
}

async function whoAsks(request: Request): Promise<Response | null> {
  if (isHereOnly()) return null;
  const { pathname, search } = new URL(request.url);
  if (viewing.test(pathname) || open.test(pathname)) return null;
  if (!settings().BRIGHT_REEL_PASSWORD)
    return turnedAway(403, 'Set BRIGHT_REEL_PASSWORD to use Bright Reel from other machines.');
  if ((await sessionOf(request)) !== null) return null;
  const given = /^Basic\s+(.*)$/i.exec(request.headers.get('authorization') ?? '')?.[1];
  if (given !== undefined) {
    const password = Buffer.from(given, 'base64').toString().split(':').slice(1).join(':');
    const told = await tellPassword(password, peerOf(request));
    return told.ok ? null : needed(request, told.sentence);
  }
  const isPage = request.method === 'GET' && (request.headers.get('accept') ?? '').includes('text/html');
  return isPage
    ? redirect(`/enter?to=${encodeURIComponent(pathname + search)}`, 303)
    : needed(request, 'The password is needed.');
}

/** A browser would ask in a window of its own; there the page asks, and a session comes of it. */
function needed({ headers }: Request, sentence: string): Response {
  const isBrowser = headers.has('sec-fetch-mode') || /^Mozilla\//.test(headers.get('user-agent') ?? '');
  return turnedAway(401, sentence, { 'WWW-Authenticate': isBrowser ? 'Session' : 'Basic realm="Bright Reel"' });
}

/** The address at the other end of the line, as the web server says it; see `web/webApp.ts`. */
export const peerOf = (request: Request): string => request.headers.get('x-bright-reel-peer') ?? '';
