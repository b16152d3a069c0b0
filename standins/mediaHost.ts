import { createReadStream } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { basename, join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/**
 * The stand-in host of media: /NAME gives a file of a folder, with ranges. /slow/NAME gives it slowly, /leaky/NAME lets
 * go half way the first time, /moved/NAME redirects to it, /loop redirects to itself, /page is no media at all.
 */
export class MediaHost {
  private readonly leaked = new Set<string>();

  constructor(private readonly folder: string) {}

  async handle(request: IncomingMessage, response: ServerResponse, path: string): Promise<void> {
    const [, way, file] = /^\/(?:(slow|leaky|moved|away)\/)?([^/]*)$/.exec(decodeURIComponent(path)) ?? [];
    if (path === '/' || file === undefined) {
      const names = await readdir(this.folder);
      return void response
        .writeHead(200, { 'Content-Type': 'application/json' })
        .end(JSON.stringify(names.filter((name) => /\.(mp4|m4a|jpg)$/.test(name))));
    }
    if (file === 'loop') return void response.writeHead(302, { Location: './loop' }).end();
    if (file === 'page')
      return void response
        .writeHead(200, { 'Content-Type': 'video/mp4' })
        .end('<html>This only says that it is a film.</html>');
    if (way === 'moved') return void response.writeHead(302, { Location: `../${encodeURIComponent(file)}` }).end();
    if (way === 'away')
      return void response.writeHead(302, { Location: `http://127.0.0.1:9/${encodeURIComponent(file)}` }).end();
    const local = join(this.folder, basename(file));
    const found = await stat(local).catch(() => null);
    if (!found?.isFile()) return void response.writeHead(404).end('not found');
    const from = Number(/^bytes=(\d+)-$/.exec(request.headers.range ?? '')?.[1] ?? 0);
    if (from >= found.size) return void response.writeHead(416, { 'Content-Range': `bytes */${found.size}` }).end();
    response.writeHead(from ? 206 : 200, {
      'Content-Type': 'application/octet-stream',
      'Accept-Ranges': 'bytes',
      ETag: `"${found.size}-${found.mtimeMs}"`,
      'Content-Length': found.size - from,
      ...(from ? { 'Content-Range': `bytes ${from}-${found.size - 1}/${found.size}` } : {}),
    });
    if (request.method === 'HEAD') return void response.end();
    const letsGo = way === 'leaky' && !this.leaked.has(file) ? found.size / 2 : Infinity;
    if (letsGo < Infinity) this.leaked.add(file);
    let sent = from;
    const pace = new Transform({
      transform: (chunk: Buffer, _, next) => {
        sent += chunk.length;
        if (sent > letsGo) return void response.destroy();
        if (way === 'slow') setTimeout(() => next(null, chunk), (chunk.length / 500_000) * 1000);
        else next(null, chunk);
      },
    });
    await pipeline(createReadStream(local, { start: from }), pace, response).catch(() => undefined);
  }
}
