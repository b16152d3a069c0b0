import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { closeDatabase, migrateDatabase } from '#data/db';
import { listRows } from '#data/media';
import { createProject } from '#data/projects';
import { migrateQueue } from '#usecases/queue';
import { action } from './upload';

const before = process.env.BRIGHT_REEL_DATA;
process.env.BRIGHT_REEL_DATA = mkdtempSync(join(tmpdir(), 'bright-reel-upload-'));
afterAll(() => void (process.env.BRIGHT_REEL_DATA = before));

// W3C Fetch, 3.2: without these headers a browser lets no page of another site read an answer, or send what must be asked for first.
it.each(['OPTIONS', 'POST', 'HEAD'])('uploads allow no other site anything: %s', async (method) => {
  const headers = {
    origin: 'https://evil.example',
    'Tus-Resumable': '1.0.0',
    'Upload-Length': 'x',
    'Access-Control-Request-Method': 'POST',
  };
  const answer = await action({
    request: new Request('http://127.0.0.1:4310/upload/abc', { method, headers }),
  } as Parameters<typeof action>[0]);
  expect([...answer.headers.keys()].filter((name) => name.startsWith('access-control'))).toEqual([]);
  expect(answer.headers.get('tus-resumable')).toBe('1.0.0');
});

const send = (method: string, path: string, headers: Record<string, string>, body?: string) =>
  action({
    request: new Request(`http://127.0.0.1:4310${path}`, {
      method,
      headers: { 'Tus-Resumable': '1.0.0', ...headers },
      ...(body === undefined ? {} : { body }),
    }),
  } as Parameters<typeof action>[0]);

describe.skipIf(!process.env.DATABASE_URL)('uploads into a project', () => {
  afterAll(closeDatabase);

  // The page waits until the item is in its list; with the last part of a file it hears which one that is.
  it('the answer to the last part names the item that came of it', async () => {
    await migrateDatabase();
    await migrateQueue();
    const { id } = await createProject('Uploads');
    const text = (value: string) => Buffer.from(value).toString('base64');
    const made = await send('POST', '/upload', {
      'Upload-Length': '6',
      'Upload-Metadata': `projectId ${text(id)},filename ${text('a.mp4')}`,
    });
    expect(made.status).toBe(201);
    const address = made.headers.get('location')!;
    const part = (offset: number, body: string) =>
      send(
        'PATCH',
        address,
        { 'Upload-Offset': String(offset), 'Content-Type': 'application/offset+octet-stream' },
        body,
      );
    expect((await part(0, 'abc')).headers.get('upload-item')).toBeNull();
    const last = await part(3, 'def');
    expect(last.status).toBe(204);
    expect(last.headers.get('upload-item')).toBe((await listRows(id))[0]!.id);
  });
});
