import { createServer, type Server } from 'node:http';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SimulatedOutlet } from '../../standins/outlet';
import { refusalOf } from '#core/reel';
import { OutletError, type OutletPost } from './index';
import { simulatedOutlet } from './simulated';
import { Cancelled } from '../process';
import { testFolder } from '../testMedia';

const folder = testFolder();
const posts = join(folder, 'posts');
const file = join(folder, 'short.mp4');
const bytes = Buffer.from(Array.from({ length: 600_000 }, (_, index) => (index * 31) & 255));
let server: Server;
let address = '';
let outlet: SimulatedOutlet;
const serve = () => simulatedOutlet(address);

beforeAll(async () => {
  writeFileSync(file, bytes);
  outlet = await SimulatedOutlet.open(posts, () => address);
  server = createServer((request, response) => void outlet.handle(request, response, request.url!));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

const post = (key: string, account: string, more: Partial<OutletPost> = {}): OutletPost => ({
  key,
  account,
  title: 'The builder’s secret',
  text: '',
  scheduledAt: null,
  file,
  size: bytes.length,
  seconds: 30,
  width: 720,
  height: 1280,
  ...more,
});
const published = () => readdirSync(posts).filter((name) => /^\d+\.mp4$/.test(name)).length;

describe('posting to an outlet', () => {
  it('arrives whole, with progress, at a link', async () => {
    const seen: number[] = [];
    const { link, state } = await serve().post(post('first-post', 'pond-notices'), {
      onProgress: (share) => seen.push(share),
    });
    expect(state).toBe('public');
    expect(readFileSync(join(posts, `${link.split('/').at(-1)!}.mp4`))).toEqual(bytes);
    expect(await (await fetch(link)).text()).toContain('The builder’s secret');
    expect(seen.at(-1)).toBeCloseTo(1, 6);
    seen.slice(1).forEach((share, index) => expect(share).toBeGreaterThanOrEqual(seen[index]!));
  });
  it('the same post sent twice, even at once, stands there once', async () => {
    const before = published();
    const [one, two] = await Promise.all([
      serve().post(post('twice-post', 'pond-notices'), {}),
      new Promise((wake) => setTimeout(wake, 30)).then(() =>
        serve()
          .post(post('twice-post', 'pond-notices'), {})
          .catch(() => null),
      ),
    ]);
    const three = await serve().post(post('twice-post', 'pond-notices'), {});
    expect(three.link).toBe(one.link);
    if (two) expect(two.link).toBe(one.link);
    expect(published()).toBe(before + 1);
  });
  it('dropped half way, it goes on where it stopped', async () => {
    const before = published();
    const first = await serve()
      .post(post('leaky-post', 'leaky-boat'), {})
      .catch((error: unknown) => error);
    expect(first).toBeInstanceOf(OutletError);
    expect((first as OutletError).final).toBe(false);
    const starts: number[] = [];
    const { link } = await serve().post(post('leaky-post', 'leaky-boat'), {
      onProgress: (share) => starts.push(share),
    });
    expect(starts[0]).toBeGreaterThan(0.3);
    expect(readFileSync(join(posts, `${link.split('/').at(-1)!}.mp4`))).toEqual(bytes);
    expect(published()).toBe(before + 1);
  });
  it.each([
    ['too long', 'regatta-shorts', { seconds: 90 }, /takes up to 60 seconds; this has 90/],
    ['a wide picture', 'regatta-shorts', { width: 1280, height: 720 }, /takes tall pictures only/],
    ['a closed account', 'closed-landing', {}, /closed today/],
    ['no account', 'nobody', {}, /no such account/],
    ['no title', 'pond-notices', { title: ' ' }, /needs a title/],
  ] as const)('refused for good, with its sentence: %s', async (name, account, more, says) => {
    const refused = await serve()
      .post(post(`refused-${name.replace(/\W/g, '-')}`, account, more), {})
      .catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(OutletError);
    expect((refused as OutletError).final).toBe(true);
    expect((refused as OutletError).message).toMatch(says);
  });
  it('a slow one can be cancelled, and is taken up again later', async () => {
    const stop = new AbortController();
    await expect(
      serve().post(post('slow-post-1', 'slow-boat'), {
        signal: stop.signal,
        onProgress: (share) => {
          if (share > 0.2) stop.abort();
        },
      }),
    ).rejects.toBeInstanceOf(Cancelled);
    const { link } = await serve().post(post('slow-post-1', 'slow-boat'), {});
    expect(readFileSync(join(posts, `${link.split('/').at(-1)!}.mp4`))).toEqual(bytes);
  });
  it('waits for its time when it has one', { retry: 2 }, async () => {
    const at = new Date(Date.now() + 3_600_000);
    const { link, state } = await serve().post(post('later-post', 'pond-notices', { scheduledAt: at }), {});
    expect(state).toBe('waiting');
    expect(await (await fetch(link)).text()).toContain(`To be seen from ${at.toISOString()} on`);
  });
  it('an outlet that is away is said, and may be tried again', async () => {
    const away = await simulatedOutlet('http://127.0.0.1:9')
      .accounts()
      .catch((error: unknown) => error);
    expect(away).toBeInstanceOf(OutletError);
    expect((away as OutletError).final).toBe(false);
  });
  it('keeps its posts over a restart', async () => {
    const again = await SimulatedOutlet.open(posts, () => address);
    const server2 = createServer((request, response) => void again.handle(request, response, request.url!));
    await new Promise<void>((done) => server2.listen(0, '127.0.0.1', done));
    const before = published();
    const { link } = await simulatedOutlet(`http://127.0.0.1:${(server2.address() as AddressInfo).port}`).post(
      post('first-post', 'pond-notices'),
      {},
    );
    expect(link).toMatch(/\/watch\/1$/);
    expect(published()).toBe(before);
    server2.closeAllConnections();
    server2.close();
  });
  it('says beforehand what an account does not take', () => {
    const account = { id: 'a', name: 'A', maxSeconds: 60, maxBytes: 1e6, widest: 0.8 };
    expect(refusalOf(account, { seconds: 61, size: 1, width: 9, height: 16 })).toMatch(/up to 60 s/);
    expect(refusalOf(account, { seconds: 10, size: 2e6, width: 9, height: 16 })).toMatch(/up to 1 MB/);
    expect(refusalOf(account, { seconds: 10, size: 1, width: 16, height: 9 })).toMatch(/tall/);
    expect(refusalOf(account, { seconds: 10, size: 1, width: 9, height: 16 })).toBeNull();
  });
});
