import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
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
