import { createWriteStream } from 'node:fs';
import { mkdir, readFile, rename, stat, writeFile } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Transform } from 'node:stream';

/** Limits of an account; null for none. Each account shows another temper of outlets in the world. */
interface Account {
  id: string;
  name: string;
  maxSeconds: number;
  maxBytes: number;
  /** Width divided by height, at the most; null for any. */
  widest: number | null;
  /** Bytes a second that it takes; null for as fast as they come. */
  pace: number | null;
  /** Lets go of the first try half way. */
  leaky?: boolean;
  /** Takes nothing. */
  closed?: string;
}

const accounts: readonly Account[] = [
  { id: 'pond-notices', name: 'Pond notices', maxSeconds: 600, maxBytes: 500e6, widest: null, pace: null },
  { id: 'regatta-shorts', name: 'Regatta shorts', maxSeconds: 60, maxBytes: 200e6, widest: 0.8, pace: null },
  { id: 'slow-boat', name: 'Slow boat', maxSeconds: 180, maxBytes: 200e6, widest: null, pace: 400_000 },
  { id: 'leaky-boat', name: 'Leaky boat', maxSeconds: 180, maxBytes: 200e6, widest: null, pace: null, leaky: true },
  {
    id: 'closed-landing',
    name: 'Closed landing',
    maxSeconds: 600,
    maxBytes: 500e6,
    widest: null,
    pace: null,
    closed: 'The landing is closed today; nothing is taken in.',
  },
];

interface Upload {
  key: string;
  account: string;
  title: string;
  text: string;
  size: number;
  seconds: number;
  width: number;
  height: number;
  scheduledAt: string | null;
  /** How often bytes began to come. */
  tries: number;
  /** Number of the post, once it is whole. */
  post: number | null;
}

/**
 * The simulated outlet. A post has a key of the sender's: the same key is the same post, however often it is sent.
 * POST /posts announces one, PUT /posts/KEY sends its bytes from where they stopped, GET /posts/KEY says how far it is.
 */
export class SimulatedOutlet {
  private readonly uploads = new Map<string, Upload>();
  private last = 0;

  private constructor(
    private readonly folder: string,
    private readonly address: () => string,
  ) {}

  static async open(folder: string, address: () => string): Promise<SimulatedOutlet> {
    const outlet = new SimulatedOutlet(folder, address);
    await mkdir(folder, { recursive: true });
    const known = JSON.parse(await readFile(join(folder, 'posts.json'), 'utf8').catch(() => '[]')) as Upload[];
    for (const upload of known) outlet.uploads.set(upload.key, upload);
    outlet.last = Math.max(0, ...known.map((upload) => upload.post ?? 0));
    return outlet;
  }

  async handle(request: IncomingMessage, response: ServerResponse, path: string): Promise<void> {
    if (path === '/accounts')
      return answer(
        response,
        200,
        accounts.map(({ pace: _, leaky: __, closed: ___, ...shown }) => shown),
      );
    if (path === '/posts' && request.method === 'POST') return this.announce(request, response);
    const page = /^\/watch\/(\d+)(\.mp4)?$/.exec(path);
    if (page) return this.watch(response, Number(page[1]), Boolean(page[2]));
    const key = /^\/posts\/([\w-]{8,64})$/.exec(path)?.[1];
    const upload = key === undefined ? undefined : this.uploads.get(key);
    if (!upload) return answer(response, 404, { problem: 'There is no such post.' });
    if (request.method === 'PUT') return this.take(request, response, upload);
    answer(response, 200, await this.stateOf(upload));
  }

  private fileOf = (upload: Upload): string => join(this.folder, `${upload.key}.part`);

  private async stateOf(upload: Upload) {
    const received =
      upload.post === null
        ? await stat(this.fileOf(upload)).then(
            ({ size }) => size,
            () => 0,
          )
        : upload.size;
    const due = upload.scheduledAt === null || Date.parse(upload.scheduledAt) <= Date.now();
    return {
      received,
      link: upload.post === null ? null : `${this.address()}/watch/${upload.post}`,
      state: upload.post === null ? 'coming' : due ? 'public' : 'waiting',
    };
  }

  private async announce(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await json(request);
    const text = (name: string) => (typeof body?.[name] === 'string' ? body[name] : '');
    const number = (name: string) =>
      typeof body?.[name] === 'number' && Number.isFinite(body[name]) ? body[name] : NaN;
    const key = text('key');
    if (!/^[\w-]{8,64}$/.test(key)) return answer(response, 400, { problem: 'A post needs a key of 8 to 64 letters.' });
    const known = this.uploads.get(key);
    if (known) return answer(response, 200, await this.stateOf(known));
    const account = accounts.find((each) => each.id === text('account'));
    const [size, seconds, width, height] = [number('size'), number('seconds'), number('width'), number('height')];
    const problem = !account
      ? 'There is no such account.'
      : account.closed
        ? account.closed
        : !text('title').trim()
          ? 'A post needs a title.'
          : text('title').length > 100
            ? 'A title has at most 100 letters here.'
            : !(seconds <= account.maxSeconds)
              ? `“${account.name}” takes up to ${account.maxSeconds} seconds; this has ${Math.round(seconds)}.`
              : !(size <= account.maxBytes)
                ? `“${account.name}” takes up to ${account.maxBytes / 1e6} MB; this has ${Math.round(size / 1e6)}.`
                : account.widest !== null && !(width / height <= account.widest)
                  ? `“${account.name}” takes tall pictures only; this is ${width}×${height}.`
                  : null;
    if (problem) return answer(response, 422, { problem });
    const scheduledAt = text('scheduledAt');
    const upload: Upload = {
      key,
      account: account!.id,
      title: text('title').trim(),
      text: text('text'),
      size,
      seconds,
      width,
      height,
      scheduledAt: scheduledAt && !Number.isNaN(Date.parse(scheduledAt)) ? scheduledAt : null,
      tries: 0,
      post: null,
    };
    this.uploads.set(key, upload);
    await this.keep();
    answer(response, 201, await this.stateOf(upload));
  }

  private async take(request: IncomingMessage, response: ServerResponse, upload: Upload): Promise<void> {
    const state = await this.stateOf(upload);
    const from = Number(/^bytes (\d+)-/.exec(request.headers['content-range'] ?? '')?.[1] ?? 0);
    if (upload.post !== null) return answer(response, 200, state);
    if (from !== state.received)
      return answer(response, 409, { problem: 'The bytes do not go on where they stopped.', ...state });
    upload.tries++;
    const account = accounts.find((each) => each.id === upload.account)!;
    const letsGo = account.leaky && upload.tries === 1 ? Math.floor(upload.size / 2) : Infinity;
    let received = from;
    const pace = new Transform({
      transform: (chunk: Buffer, _, next) => {
        received += chunk.length;
        if (received > letsGo) return void request.destroy();
        if (received > upload.size) return next(new Error('too long'));
        if (account.pace === null) return next(null, chunk);
        setTimeout(() => next(null, chunk), (chunk.length / account.pace) * 1000);
      },
    });
    try {
      await pipeline(request, pace, createWriteStream(this.fileOf(upload), { flags: from ? 'a' : 'w' }));
    } catch {
      // The sender went away, or was let go; what came stays, and it may go on.
      if (!response.destroyed && !response.headersSent) response.destroy();
      return;
    }
    // Of two that send the same at once the second finds it there.
    if (received < upload.size || upload.post !== null) return answer(response, 200, await this.stateOf(upload));
    upload.post = ++this.last;
    await rename(this.fileOf(upload), join(this.folder, `${upload.post}.mp4`));
    await this.keep();
    answer(response, 201, await this.stateOf(upload));
  }

  private async watch(response: ServerResponse, post: number, file: boolean): Promise<void> {
    const upload = [...this.uploads.values()].find((each) => each.post === post);
    if (!upload) return answer(response, 404, { problem: 'There is no such post.' });
    if (file) {
      const bytes = await readFile(join(this.folder, `${post}.mp4`));
      return void response.writeHead(200, { 'Content-Type': 'video/mp4', 'Content-Length': bytes.length }).end(bytes);
    }
    const safe = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
    const account = accounts.find((each) => each.id === upload.account)!;
    const due = (await this.stateOf(upload)).state === 'public';
    response
      .writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' })
      .end(
        `<!doctype html><html lang="en"><title>${safe(upload.title)}</title><body style="background:#20262b;color:#eee;font:16px sans-serif;max-width:40rem;margin:2rem auto"><p>${safe(account.name)} (simulated outlet)</p><h1>${safe(upload.title)}</h1><p>${safe(upload.text)}</p>${due ? `<video controls style="max-height:70vh" src="/outlet/watch/${post}.mp4"></video>` : `<p>To be seen from ${safe(upload.scheduledAt!)} on.</p>`}</body></html>`,
      );
  }

  private async keep(): Promise<void> {
    await writeFile(join(this.folder, 'posts.json.part'), JSON.stringify([...this.uploads.values()]));
    await rename(join(this.folder, 'posts.json.part'), join(this.folder, 'posts.json'));
  }
}

const answer = (response: ServerResponse, status: number, body: unknown): void =>
  void response.writeHead(status, { 'Content-Type': 'application/json' }).end(JSON.stringify(body));

async function json(request: IncomingMessage): Promise<Record<string, unknown> | null> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > 100_000) return null;
  }
  try {
    return JSON.parse(text) as Record<string, unknown>;
  } catch {
    return null;
  }
}
