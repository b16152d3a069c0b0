import { Readable } from 'node:stream';
import { extname } from 'node:path';
import { openStored } from '#usecases/stored';
import { attachment } from './answer.server';

const types: Record<string, string> = {
  '.mp4': 'video/mp4',
  '.m4v': 'video/mp4',
  '.mov': 'video/mp4',
  '.webm': 'video/webm',
  '.m4a': 'audio/mp4',
  '.mp3': 'audio/mpeg',
  '.wav': 'audio/wav',
  '.ogg': 'audio/ogg',
  '.flac': 'audio/flac',
  '.jpg': 'image/jpeg',
  '.jpeg': 'image/jpeg',
  '.png': 'image/png',
  '.gif': 'image/gif',
  '.webp': 'image/webp',
};

/** Parses "bytes=from-to"; null for the whole file, "bad" when it cannot be met (RFC 9110, 14.2). */
export function parseRange(header: string | null, size: number): { start: number; end: number } | null | 'bad' {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!match || (!match[1] && !match[2])) return null;
  const start = match[1] ? Number(match[1]) : Math.max(0, size - Number(match[2]));
  const end = match[1] && match[2] ? Math.min(Number(match[2]), size - 1) : size - 1;
  return start > end || start >= size ? 'bad' : { start, end };
}

/** Streams a stored file, whole or the part that was asked for. */
export async function sendStored(
  key: string,
  request: Request,
  options: { downloadName?: string; immutable?: boolean } = {},
): Promise<Response> {
  const stored = await openStored(key);
  if (!stored) return new Response('This file is not there any more.', { status: 404 });
  const { size } = stored;
  const type = types[extname(key)] ?? 'application/octet-stream';
  const name = options.downloadName && attachment(options.downloadName);
  const elsewhere = request.method === 'GET' ? await stored.address({ type, ...(name ? { name } : {}) }) : null;
  if (elsewhere)
    return new Response(null, {
      status: 302,
      headers: { Location: elsewhere, 'Cache-Control': options.immutable ? 'private, max-age=3600' : 'no-store' },
    });
  const headers = new Headers({
    'Content-Type': type,
    'Accept-Ranges': 'bytes',
    'X-Content-Type-Options': 'nosniff',
    'Cache-Control': options.immutable ? 'private, max-age=31536000, immutable' : 'private, no-cache',
  });
  if (name) headers.set('Content-Disposition', name);
  const range = parseRange(request.headers.get('range'), size);
  if (range === 'bad') return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${size}` } });
  headers.set('Content-Length', String(range ? range.end - range.start + 1 : size));
  if (range) headers.set('Content-Range', `bytes ${range.start}-${range.end}/${size}`);
  if (request.method === 'HEAD') return new Response(null, { status: range ? 206 : 200, headers });
  const stream = stored.read(range ?? undefined);
  stream.on('error', () => stream.destroy());
  request.signal.addEventListener('abort', () => stream.destroy());
  return new Response(Readable.toWeb(stream) as ReadableStream, { status: range ? 206 : 200, headers });
}
