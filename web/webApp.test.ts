import { once } from 'node:events';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pagePolicy, protect } from '../app/server/headers.server';
import { webApp } from './webApp';

describe('the web server', () => {
  const files = mkdtempSync(join(tmpdir(), 'bright-reel-web-'));
  writeFileSync(join(files, 'boat.js'), 'export {}');
  let server: Server;
  let port = 0;
  beforeAll(async () => {
    // What passes comes to React Router, which is not asked here.
    server = webApp({} as never, files).listen(0, '127.0.0.1');
    await once(server, 'listening');
    port = (server.address() as { port: number }).port;
  });
  afterAll(() => void server.close());

  const ask = (head: string): Promise<string> =>
    new Promise((resolve) => {
      const socket = connect(port, '127.0.0.1');
      let said = '';
      socket.on('data', (chunk: Buffer) => (said += chunk.toString()));
      socket.on('close', () => resolve(said));
      socket.write(head);
    });
  const last = 'Connection: close\r\n\r\n';

  it.each([
    ['a method that nothing here knows', 'TRACE / HTTP/1.1\r\nHost: a\r\n', 405],
    ['no host, as HTTP/1.0 allows', 'GET / HTTP/1.0\r\n', 400],
    ['a host that is none', 'GET / HTTP/1.1\r\nHost: a b\r\n', 400],
    ['an address of elsewhere', 'GET http://evil.example/ HTTP/1.1\r\nHost: a\r\n', 400],
    ['percent signs that stand for no letter', 'GET /%E0%A4%A HTTP/1.1\r\nHost: a\r\n', 400],
    ['NUL in the address', 'GET /a%00b HTTP/1.1\r\nHost: a\r\n', 400],
    ['an address without an end', `GET /${'x'.repeat(9000)} HTTP/1.1\r\nHost: a\r\n`, 414],
    ['a way out of the folder of built files', 'GET /assets/..%2f..%2f..%2fetc%2fpasswd HTTP/1.1\r\nHost: a\r\n', 403],
  ])('refuses %s', async (_, head, status) => {
    const said = await ask(head + last);
    expect(said.split('\r\n')[0]).toMatch(new RegExp(`^HTTP/1.1 ${status} `));
    expect(said).not.toMatch(/node_modules|root:x/);
  });
  it('believes of whom a proxy asks only when the proxy is on this machine, or was named', () => {
    const believes = (peer: string, ...named: string[]) =>
      (webApp({} as never, files, named).get('trust proxy fn') as (peer: string, hops: number) => boolean)(peer, 0);
    expect([believes('127.0.0.1'), believes('10.0.0.5'), believes('172.18.0.3')]).toEqual([true, false, false]);
    expect([believes('10.0.0.5', '10.0.0.5'), believes('10.0.0.6', '10.0.0.5')]).toEqual([true, false]);
    expect([believes('172.18.0.3', 'uniquelocal'), believes('203.0.113.9', 'uniquelocal')]).toEqual([true, false]);
  });
  it.each([
    '/projects/x/archive.data?media=1&index=%25',
    '/media/x.data',
    '/media/x/%72aw.data',
    '/outputs/x/captions.data',
    '/upload.data',
    '/projects/x/reels/y/export/otio.data',
  ])('has no data of what is taken away as a file: %s', async (path) => {
    const said = await ask(`GET ${path} HTTP/1.1\r\nHost: a\r\n${last}`);
    expect(said).toMatch(/^HTTP\/1\.1 404 /);
    expect(said).toContain('There is nothing here.');
  });
  it('gives built files as what they are', async () => {
    const said = await ask(`GET /boat.js HTTP/1.1\r\nHost: a\r\n${last}`);
    expect(said).toMatch(/^HTTP\/1\.1 200 /);
    expect(said.toLowerCase()).toContain('x-content-type-options: nosniff');
    expect(said.toLowerCase()).not.toContain('x-powered-by');
  });
});

describe('what an answer says a browser may do with it', () => {
  it('a page runs no script that is not marked, is in no frame, and loads nothing from elsewhere', () => {
    const policy = pagePolicy('abc');
    expect(policy).toContain("script-src 'self' 'nonce-abc' 'wasm-unsafe-eval'");
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toMatch(/script-src[^;]*'unsafe-inline'|'unsafe-eval'|\*|https?:/);
  });
  it('what says something of its own keeps it', () => {
    const own = protect(
      new Response('', { headers: { 'Referrer-Policy': 'no-referrer', 'Content-Security-Policy': 'x' } }),
    );
    expect(own.headers.get('referrer-policy')).toBe('no-referrer');
    expect(own.headers.get('content-security-policy')).toBe('x');
    expect(own.headers.get('x-frame-options')).toBe('DENY');
    expect(own.headers.get('cross-origin-resource-policy')).toBe('same-origin');
  });
});
