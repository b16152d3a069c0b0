import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { closeDatabase, migrateDatabase } from '#data/db';
import { newSession, sessionLeft, sessionSeconds, tellPassword } from '#usecases/entrance';
import { guard } from './guard.server';

type Asked = Record<string, string>;
const status = async (path: string, headers: Asked, method = 'GET') =>
  (await guard(new Request(`http://${headers.host}${path}`, { method, headers })))?.status ?? 200;
const basic = (password: string) => `Basic ${Buffer.from(`me:${password}`).toString('base64')}`;

describe('on loopback', () => {
  const here = { host: '127.0.0.1:4310' };
  it('only requests to this machine by its own names are answered', async () => {
    const asked = [
      '127.0.0.1:4310',
      'localhost:4310',
      'pond.example',
      '127.0.0.1.pond.example',
      'localhost.pond.example',
    ];
    expect(await Promise.all(asked.map((host) => status('/', { host })))).toEqual([200, 200, 403, 403, 403]);
  });
  const send = (path: string, headers: Asked, method = 'POST') => status(path, { ...here, ...headers }, method);
  it.each([
    '/archives',
    '/upload',
    '/upload/x',
    '/projects/x/log',
    '/projects/x/reels/y/edits',
    '/projects/x/reels/import',
    '/projects/x/looks',
  ])('pages of other sites may change nothing: %s', async (path) => {
    expect(await send(path, { origin: 'http://127.0.0.1:4310', 'sec-fetch-site': 'same-origin' })).toBe(200);
    // A tool outside a browser says nothing of the kind.
    expect(await send(path, {})).toBe(200);
    for (const origin of ['https://evil.example', 'http://127.0.0.1:9999', 'http://localhost:4310', 'null', 'nonsense'])
      expect(await send(path, { origin }), origin).toBe(403);
    for (const site of ['cross-site', 'same-site'])
      expect(await send(path, { 'sec-fetch-site': site }), site).toBe(403);
    for (const method of ['PUT', 'PATCH', 'DELETE'])
      expect(await send(path, { origin: 'https://evil.example' }, method), method).toBe(403);
  });
  it('a link from elsewhere may lead here; pictures, scripts and frames of other pages may not', async () => {
    const from = (mode: string, dest: string) =>
      send('/media/x', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': mode, 'sec-fetch-dest': dest }, 'GET');
    expect(await from('navigate', 'document')).toBe(200);
    expect(await Promise.all([from('no-cors', 'image'), from('cors', 'empty'), from('navigate', 'iframe')])).toEqual([
      403, 403, 403,
    ]);
  });
  it('bodies are of a known kind', async () => {
    const kind = (type: string) => send('/projects/x/log', { 'content-length': '5', 'content-type': type });
    for (const type of [
      'application/json',
      'application/x-www-form-urlencoded;charset=UTF-8',
      'multipart/form-data; boundary=x',
    ])
      expect(await kind(type), type).toBe(200);
    for (const type of ['text/plain', 'text/plain; application/json', 'application/jsonp', 'text/html'])
      expect(await kind(type), type).toBe(415);
  });
  it('bodies have a bound, but for files and archives, which go to the disk as they come', async () => {
    const long = (path: string, bytes: number) =>
      send(path, { 'content-length': String(bytes), 'content-type': 'application/octet-stream' });
    expect(await long('/projects/x/log', 3e6)).toBe(200);
    expect(await long('/projects/x/log', 8e6)).toBe(413);
    expect(await long('/projects/x/reels/import', 8e6)).toBe(200);
    expect(await send('/projects/x/log', { 'transfer-encoding': 'chunked', 'content-type': 'application/json' })).toBe(
      411,
    );
    for (const path of ['/upload', '/upload/abc', '/archives']) expect(await long(path, 8e9)).toBe(200);
    expect(await long('/uploads-of-mine', 8e9)).toBe(413);
  });
});

describe('on an address that others reach', () => {
  const token = 'fn4_GOdoY_2FlTFEsAsjtCywPe2aAjwi';
  const there = { host: '10.0.0.5:4310' };
  beforeEach(() => {
    process.env.HOST = '0.0.0.0';
    process.env.BRIGHT_REEL_PASSWORD = 'duck:pond';
    process.env.BRIGHT_REEL_HOSTS = 'reels.example';
  });
  afterEach(() => {
    delete process.env.HOST;
    delete process.env.BRIGHT_REEL_PASSWORD;
    delete process.env.BRIGHT_REEL_HOSTS;
  });

  it('only names that are its own are answered: a foreign one may be a page that calls itself us', async () => {
    const asked = [
      '10.0.0.5:4310',
      '[fd00::1]:4310',
      'reels.example',
      'REELS.example:443',
      'evil.example',
      'reels.example.evil.example',
    ];
    expect(await Promise.all(asked.map((host) => status('/health', { host })))).toEqual([200, 200, 200, 200, 403, 403]);
  });
  it('a proxy on the same machine passes on what is asked under the name that was set, and the password is needed', async () => {
    process.env.HOST = '127.0.0.1';
    expect(await status('/health', { host: 'reels.example' })).toBe(200);
    expect(await status('/', { host: 'reels.example' })).toBe(401);
    expect(await status('/', { host: '127.0.0.1:4310' })).toBe(401);
    expect(await status('/health', { host: 'evil.example' })).toBe(403);
    delete process.env.BRIGHT_REEL_HOSTS;
    expect(await status('/', { host: '127.0.0.1:4310' })).toBe(200);
    expect(await status('/', { host: 'reels.example' })).toBe(403);
  });
  it('nothing without the password, but for a word whether it is well, and the question for the password', async () => {
    for (const path of [
      '/',
      '/projects/x',
      '/projects/x.data',
      '/media/x',
      '/upload',
      '/archives',
      '/health/x',
      '/metrics',
      '/enterprise',
    ])
      expect(await status(path, there), path).toBe(401);
    for (const path of ['/health', '/ready', '/enter', '/enter.data'])
      expect(await status(path, there), path).toBe(200);
    const page = await guard(
      new Request(`http://${there.host}/projects/x?y=1`, { headers: { ...there, accept: 'text/html' } }),
    );
    expect([page?.status, page?.headers.get('location')]).toEqual([303, '/enter?to=%2Fprojects%2Fx%3Fy%3D1']);
    delete process.env.BRIGHT_REEL_PASSWORD;
    expect(await status('/', there)).toBe(403);
  });
  it('a link to look and comment lets in by itself, and nowhere beside it', async () => {
    for (const path of ['', '.data', '/film/d5b2334d-2d48-4c38-ba8c-351cf006a9d2'])
      expect(await status(`/viewing/${token}${path}`, there), path).toBe(200);
    for (const path of [
      '/projects/x/reels/y/viewing',
      '/viewing/short',
      `/viewing/${token}/../../projects`,
      `/viewing/${token}/film/a/../../../../media/a`,
      `/viewing/${token}%2f..%2fprojects`,
      `/x/viewing/${token}`,
    ])
      expect(await status(path, there), path).toBe(401);
  });
  it('a session lets in until it is over, is forged, or the password is another', async () => {
    // As React Router writes the value of a cookie: JSON in base64.
    const cookie = (session: string) =>
      `bright-reel-session=${encodeURIComponent(Buffer.from(JSON.stringify(session)).toString('base64'))}`;
    const session = newSession();
    expect(await status('/', { ...there, cookie: cookie(session) })).toBe(200);
    const [until, signature] = session.split('.') as [string, string];
    expect(await status('/', { ...there, cookie: cookie(`${Number(until) + 1}.${signature}`) })).toBe(401);
    expect(await status('/', { ...there, cookie: cookie(until) })).toBe(401);
    expect(sessionLeft(session, Date.now() + sessionSeconds * 1001)).toBeNull();
    process.env.BRIGHT_REEL_PASSWORD = 'another';
    expect(await status('/', { ...there, cookie: cookie(session) })).toBe(401);
    expect(sessionLeft('nonsense')).toBeNull();
  });

  describe.skipIf(!process.env.DATABASE_URL)('guesses', () => {
    beforeEach(migrateDatabase);
    afterEach(closeDatabase);
    const tell = (password: string, peer: string) =>
      status('/', { ...there, authorization: basic(password), 'x-bright-reel-peer': peer });

    it('a tool gives the password with every request', async () => {
      expect([await tell('wrong', '192.0.2.1'), await tell('duck:pond', '192.0.2.1')]).toEqual([401, 200]);
    });
    it('after ten wrong ones the right one does not help either, for whoever gave them', async () => {
      const many = await Promise.all(Array.from({ length: 30 }, (_, at) => tellPassword(`guess ${at}`, '192.0.2.2')));
      expect(many.filter((each) => !each.ok && each.sentence === 'This is not the password.')).toHaveLength(10);
      const late = await tellPassword('duck:pond', '192.0.2.2');
      expect(late).toMatchObject({ ok: false, sentence: 'The password was wrong too often. Try again in 10 minutes.' });
      expect(await tell('duck:pond', '192.0.2.3')).toBe(200);
      // RFC 4291, 2.5.4: an interface has 64 bits of its own, so that one network counts as one.
      await Promise.all(Array.from({ length: 30 }, (_, at) => tellPassword('no', `2001:db8:1:2::${at + 1}`)));
      expect(await tell('duck:pond', '2001:db8:1:2:ffff::1')).toBe(401);
      expect(await tell('duck:pond', '2001:db8:1:3::1')).toBe(200);
    });
  });
});
