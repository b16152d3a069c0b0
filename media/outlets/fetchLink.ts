import { createWriteStream } from 'node:fs';
import { stat, truncate } from 'node:fs/promises';
import { lookup } from 'node:dns/promises';
import { request as httpRequest, type IncomingMessage } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP } from 'node:net';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import ipaddr from 'ipaddr.js';
import { Cancelled, MediaError } from '../process';

export interface LinkOptions {
  signal?: AbortSignal;
  /** No more than this is taken, in bytes. */
  maxBytes: number;
  /** Hosts with ports that may be asked although their addresses are private, as "127.0.0.1:4311". */
  allowed: readonly string[];
  onProgress?(bytes: number, total: number | null): void;
}

const mostRedirects = 5,
  mostTries = 5;
const waitsSeconds = 20;

/** Only the open internet: not this machine, not its network, nothing reserved (RFC 6890 and its registry). */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  return parsed.range() === 'unicast';
}

/** The address as it may be asked, or a sentence why not. Nothing is asked yet. */
export function checkLink(text: string): URL {
  let url: URL;
  try {
    url = new URL(text.trim());
  } catch (error) {
    throw new MediaError('This is not an address. Give one that begins with https:// and leads to a media file.', {
      cause: error,
    });
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:')
    throw new MediaError(`Only http and https addresses can be brought in; this begins with “${url.protocol}”.`);
  if (url.username || url.password) throw new MediaError('Addresses with a name and password in them are not taken.');
  return url;
}

const hostOf = (url: URL): string =>
  `${url.hostname.replace(/^\[|\]$/g, '')}:${url.port || (url.protocol === 'https:' ? '443' : '80')}`;

/** The one IP that is asked, after it was looked at, so that no second look-up can lead elsewhere. */
async function resolve(url: URL, allowed: readonly string[]): Promise<{ address: string; family: number }> {
  const name = url.hostname.replace(/^\[|\]$/g, '');
  const found = isIP(name)
    ? [{ address: name, family: isIP(name) }]
    : await lookup(name, { all: true }).catch((error: unknown) => {
        throw new MediaError(`“${name}” was not found. Check the address.`, { cause: error });
      });
  if (allowed.includes(hostOf(url))) return found[0]!;
  if (found.some(({ address }) => !isPublic(address)))
    throw new MediaError(`“${name}” lies inside a private network; nothing is fetched from there.`);
  return found[0]!;
}

async function ask(url: URL, headers: Record<string, string>, options: LinkOptions): Promise<IncomingMessage> {
  const { address, family } = await resolve(url, options.allowed);
  return new Promise((done, reject) => {
    const request = (url.protocol === 'https:' ? httpsRequest : httpRequest)(
      url,
      {
        headers: { 'User-Agent': 'BrightReel', Accept: '*/*', ...headers },
        timeout: waitsSeconds * 1000,
        ...(options.signal ? { signal: options.signal } : {}),
        lookup: (_name, how, back) =>
          typeof how === 'object' && how.all
            ? (back as unknown as (error: null, list: { address: string; family: number }[]) => void)(null, [
                { address, family },
              ])
            : back(null, address, family),
      },
      done,
    );
    request.on('timeout', () => request.destroy(new Error('timeout')));
    request.on('error', reject);
    request.end();
  });
}

/** The connection broke; what came can be gone on with. */
export class LinkBroken extends MediaError {
  override name = 'LinkBroken';
}
class Broken extends Error {}

/**
 * Fetches a media file into a local file, which may hold its beginning already; a broken connection is taken up again
 * where it stopped. Follows redirects, each looked at like the first address.
 * @returns the name that the address suggests
 * @throws MediaError with a sentence, Cancelled
 */
export async function fetchLink(address: string, file: string, options: LinkOptions): Promise<string> {
  let url = checkLink(address);
  let mark: string | null = null;
  for (let tries = 0, redirects = 0; ;) {
    const had = await stat(file).then(
      ({ size }) => size,
      () => 0,
    );
    let response: IncomingMessage;
    try {
      // Only what is surely the same file goes on; without a mark it begins anew.
      response = await ask(url, had > 0 && mark !== null ? { Range: `bytes=${had}-`, 'If-Range': mark } : {}, options);
    } catch (error) {
      if (options.signal?.aborted) throw new Cancelled();
      if (error instanceof MediaError) throw error;
      if (++tries >= mostTries)
        throw new MediaError(`“${url.hostname}” does not answer. Check the address, or try again later.`, {
          cause: error,
        });
      await pause(tries, options.signal);
      continue;
    }
    const status = response.statusCode ?? 0;
    if (status >= 300 && status < 400 && response.headers.location) {
      response.destroy();
      if (++redirects > mostRedirects) throw new MediaError('This address leads from one to the next without an end.');
      url = checkLink(new URL(response.headers.location, url).href);
      continue;
    }
    if (status !== 200 && status !== 206) {
      response.destroy();
      if (status >= 500 && ++tries < mostTries) {
        await pause(tries, options.signal);
        continue;
      }
      throw new MediaError(
        status === 404 || status === 410
          ? 'There is no file at this address.'
          : status === 401 || status === 403
            ? 'This address asks for a permission that Bright Reel does not have.'
            : `The host answered ${status} instead of giving the file.`,
      );
    }
    const tag = response.headers.etag ?? response.headers['last-modified'] ?? null;
    mark = typeof tag === 'string' && !tag.startsWith('W/') ? tag : null;
    const start = status === 206 ? had : 0;
    if (start === 0 && had > 0) await truncate(file, 0);
    const length = response.headers['content-length'] === undefined ? null : Number(response.headers['content-length']);
    const total = length === null ? null : start + length;
    const tooLarge = () =>
      new MediaError(
        `This file is larger than ${Math.round(options.maxBytes / 1e6)} MB, the most that is brought in by link.`,
      );
    if (total !== null && total > options.maxBytes) {
      response.destroy();
      throw tooLarge();
    }
    let bytes = start;
    const count = new Transform({
      transform(chunk: Buffer, _, next) {
        bytes += chunk.length;
        if (bytes > options.maxBytes) return next(tooLarge());
        options.onProgress?.(bytes, total);
        next(null, chunk);
      },
    });
    try {
      await pipeline(
        response,
        count,
        createWriteStream(file, { flags: start ? 'a' : 'w' }),
        ...(options.signal ? [{ signal: options.signal }] : []),
      );
      if (total !== null && bytes < total) throw new Broken();
      return nameOf(url, response);
    } catch (error) {
      if (options.signal?.aborted) throw new Cancelled();
      if (error instanceof MediaError) throw error;
      if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
        throw new LinkBroken('The disk is full. Free some space and try again; it goes on where it stopped.', {
          cause: error,
        });
      // Something came: that counts as a way forward.
      if (bytes > had) tries = 0;
      if (++tries >= mostTries)
        throw new LinkBroken('The connection broke again and again. Try again later; it goes on where it stopped.', {
          cause: error,
        });
      await pause(tries, options.signal);
    }
  }
}

const pause = (tries: number, signal?: AbortSignal): Promise<void> =>
  new Promise((done, reject) => {
    const timer = setTimeout(done, 250 * 2 ** tries);
    signal?.addEventListener(
      'abort',
      () => {
        clearTimeout(timer);
        reject(new Cancelled());
      },
      { once: true },
    );
  });

function nameOf(url: URL, response: IncomingMessage): string {
  const said = /filename\*?=(?:UTF-8'')?"?([^";]+)"?/i.exec(response.headers['content-disposition'] ?? '')?.[1];
  let name = said ?? url.pathname.split('/').at(-1) ?? '';
  try {
    name = decodeURIComponent(name);
  } catch {
    // A name with a stray percent sign stays as it is written.
  }
  // eslint-disable-next-line no-control-regex
  return (
    name
      .replace(/[\u0000-\u001f\u007f]/g, '')
      .split(/[\\/]/)
      .at(-1)!
      .trim()
      .slice(-200) || 'from a link'
  );
}
