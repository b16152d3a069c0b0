import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { holdingFiles, LocalCache } from './localCache';
import { moveStore } from './moveStore';
import { bucketOf, s3Client, S3Storage } from './s3Storage';
import { FolderStorage, MovingStorage } from './storage';
import type { Storage } from './store';
import { Line, type Fault } from './testStore';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-test-'));
const line = new Line();
let endpoint = '';
const before = { ...process.env };
beforeAll(async () => {
  Object.assign(process.env, { AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' });
  endpoint = await line.open(join(folder, 'store'));
});
afterEach(() => void (line.faults = []));
afterAll(async () => {
  process.env = before;
  await line.close();
});

let caches = 0;
const cacheOf = (limit: number) => new LocalCache(join(folder, `cache-${caches++}`), limit);
const bucket = (prefix = 'a/', cache = cacheOf(100e6)) =>
  new S3Storage(s3Client(endpoint), { bucket: 'reels', prefix }, cache, s3Client(endpoint));
let files = 0;
function fileOf(content: Buffer): string {
  const path = join(folder, `file-${files++}`);
  writeFileSync(path, content);
  return path;
}
const keyOf = (content: Buffer) => `files/ab/${createHash('sha256').update(content).digest('hex')}.mp4`;
const textOf = async (store: Storage, key: string, range?: { start: number; end: number }) => {
  const parts: Buffer[] = [];
  for await (const chunk of store.read(key, range)) parts.push(chunk as Buffer);
  return Buffer.concat(parts).toString();
};

describe.each([
  ['a folder', () => new FolderStorage(join(folder, `own-${files++}`))],
  ['a bucket', () => bucket(`b${files++}/`)],
  [
    'a bucket that is on its way from a folder',
    () => new MovingStorage(bucket(`b${files++}/`), new FolderStorage(join(folder, `own-${files++}`))),
  ],
] as [string, () => Storage][])('a store that is %s', (_, make) => {
  it('keeps files under their keys, gives parts of them, lists and forgets them', async () => {
    const store = make();
    const local = fileOf(Buffer.from('paper boats on a pond'));
    await store.adopt('readings/x/sheet-0001.jpg', local, { copy: true });
    await store.adopt('readings/x/proxy.mp4', fileOf(Buffer.from('p')));
    await store.adopt('readings/xy.gz', fileOf(Buffer.alloc(0)));
    expect(existsSync(local)).toBe(true);
    expect(await store.size('readings/x/sheet-0001.jpg')).toBe(21);
    expect(await store.size('readings/x')).toBeNull();
    expect(await textOf(store, 'readings/x/sheet-0001.jpg')).toBe('paper boats on a pond');
    expect(await textOf(store, 'readings/x/sheet-0001.jpg', { start: 6, end: 10 })).toBe('boats');
    expect(readFileSync(await store.localPath('readings/x/sheet-0001.jpg'), 'utf8')).toBe('paper boats on a pond');
    expect((await store.list('readings/x')).map(({ key }) => key).sort()).toEqual([
      'readings/x/proxy.mp4',
      'readings/x/sheet-0001.jpg',
      'readings/xy.gz',
    ]);
    expect((await store.list('readings/x/sheet-')).map(({ key, bytes }) => [key, bytes])).toEqual([
      ['readings/x/sheet-0001.jpg', 21],
    ]);
    await store.adopt('readings/x/proxy.mp4', fileOf(Buffer.from('another')));
    expect(readFileSync(await store.localPath('readings/x/proxy.mp4'), 'utf8')).toBe('another');
    await store.remove('readings/x');
    expect((await store.list('')).map(({ key }) => key)).toEqual(['readings/xy.gz']);
    await expect(async () => store.adopt('../out', local, { copy: true })).rejects.toThrow(/leaves the store/);
  });
  it('notes what is wanted just now', async () => {
    const store = make();
    await store.adopt('files/a', fileOf(Buffer.from('a')));
    const changedAt = (await store.list('files/'))[0]!.changedAt;
    await sleep(1100);
    await store.keepFresh('files/a');
    const [after, ...others] = await store.list('');
    expect(others).toEqual([]);
    expect(after!.changedAt).toBeGreaterThan(changedAt);
  });
});

describe('a bucket', () => {
  it('is named by an address', () => {
    expect(bucketOf('s3://reels')).toEqual({ bucket: 'reels', prefix: '' });
    expect(bucketOf('s3://reels/of/the pond/')).toEqual({ bucket: 'reels', prefix: 'of/the pond/' });
    for (const none of ['/data/store', 's3://', 's3://UPPER/x', 'http://a/b']) expect(bucketOf(none)).toBeNull();
  });
  it('takes large files in parts, and knows that they arrived as they were', async () => {
    const store = bucket();
    const content = randomBytes(40 * 2 ** 20);
    await store.adopt(keyOf(content), fileOf(content), { copy: true });
    expect(line.asked.filter((each) => /partNumber=\d/.test(each)).length).toBeGreaterThanOrEqual(3);
    expect(readFileSync(await store.localPath(keyOf(content))).equals(content)).toBe(true);
  });
  it('gives an address that lets in a browser by itself, with ranges, a name and a type', async () => {
    const store = bucket();
    await store.adopt('renders/r.mp4', fileOf(Buffer.from('paper boats')), { copy: true });
    const address = (await store.address('renders/r.mp4', { name: 'attachment; filename=r', type: 'video/mp4' }))!;
    // The same for an hour, so that a browser finds it again.
    expect(await store.address('renders/r.mp4', { name: 'attachment; filename=r', type: 'video/mp4' })).toBe(address);
    const answer = await fetch(address, { headers: { range: 'bytes=6-10' } });
    expect([answer.status, await answer.text(), answer.headers.get('content-disposition')]).toEqual([
      206,
      'boats',
      'attachment; filename=r',
    ]);
    expect((await fetch(address.replace('S3RVER', 'NOBODY'))).status).toBe(403);
  });
  it('says that something is not there', async () => {
    const store = bucket();
    expect(await store.size('files/none')).toBeNull();
    await expect(store.localPath('files/none')).rejects.toMatchObject({ code: 'ENOENT' });
    await expect(textOf(store, 'files/none')).rejects.toMatchObject({ code: 'ENOENT' });
  });

  it.each(['slow', '500', '503', 'cut', 'flip'] as Fault[])('gets over a line that is %s', async (fault) => {
    const content = randomBytes(300_000);
    const key = keyOf(content);
    const store = bucket(`${fault}/`);
    line.faults = [fault, fault];
    await store.adopt(key, fileOf(content), { copy: true });
    // The size is asked for first.
    line.faults = ['pass', fault, fault];
    expect(readFileSync(await store.localPath(key)).equals(content)).toBe(true);
    line.faults = [fault];
    if (fault !== 'flip') expect((await textOf(store, key)).length).toBeGreaterThan(0);
  });
  it('passes nothing on that arrives wrong again and again, and keeps nothing of it', async () => {
    const content = randomBytes(1000);
    const cache = cacheOf(10e6);
    const store = bucket('wrong/', cache);
    await store.adopt(keyOf(content), fileOf(content), { copy: true });
    line.faults = ['pass', ...Array<Fault>(20).fill('flip')];
    await expect(store.localPath(keyOf(content))).rejects.toThrow(/did not come out of the store as it was put in/);
    line.faults = [];
    expect(await cache.used()).toBe(0);
    expect(readFileSync(await store.localPath(keyOf(content))).equals(content)).toBe(true);
    line.faults = Array<Fault>(40).fill('flip');
    await expect(store.adopt('files/other', fileOf(content), { copy: true })).rejects.toThrow(/did not arrive/);
  }, 30_000);
});

describe('a cache of a machine', () => {
  const fill = (bytes: number) => async (to: string) => writeFileSync(to, Buffer.alloc(bytes));
  const never = () => Promise.reject(new Error('It was there.'));

  it('never has more than it may; what was used longest ago goes first', async () => {
    const cache = cacheOf(1000);
    for (const key of ['a', 'b', 'c', 'a', 'd']) {
      await holdingFiles(() => cache.path(key, 300, fill(300)));
      await sleep(15);
      expect(await cache.used()).toBeLessThanOrEqual(1000);
    }
    await cache.path('a', 300, never);
    await expect(cache.path('b', 300, never)).rejects.toThrow('It was there.');
    await expect(cache.path('e', 1001, fill(1001))).rejects.toMatchObject({ code: 'EFBIG' });
  });
  it('takes nothing from somebody who is at work; others wait until it is let go', async () => {
    const cache = cacheOf(1000);
    const order: string[] = [];
    let path = '';
    const work = holdingFiles(async () => {
      path = await cache.path('a', 800, fill(800));
      await sleep(700);
      expect(existsSync(path)).toBe(true);
      order.push('a is done');
    });
    await sleep(100);
    const other = holdingFiles(async () => {
      await cache.path('b', 800, fill(800));
      order.push('b is there');
    });
    await Promise.all([work, other]);
    expect(order).toEqual(['a is done', 'b is there']);
    expect(existsSync(path)).toBe(false);
  });
  it('brings a file once, however many want it, in however many threads', async () => {
    const place = cacheOf(10_000).folder;
    let times = 0;
    const slowly = async (to: string) => {
      times++;
      await sleep(300);
      writeFileSync(to, Buffer.alloc(500));
    };
    const all = Array.from({ length: 6 }, () => new LocalCache(place, 10_000));
    const paths = await Promise.all(
      [...all, ...all].map((cache) => holdingFiles(() => cache.path('a/film.mp4', 500, slowly))),
    );
    expect(new Set(paths).size).toBe(1);
    expect(paths[0]).toMatch(/film\.mp4$/);
    expect(times).toBe(1);
  });
  it('takes what a killed process left for nothing', async () => {
    const cache = cacheOf(1000);
    await expect(
      cache.path('a', 900, async (to) => (writeFileSync(to, 'half'), Promise.reject(new Error('cut')))),
    ).rejects.toThrow('cut');
    expect(await cache.used()).toBe(0);
    await holdingFiles(() => cache.path('a', 900, fill(900)));
    const [entry] = readdirSync(cache.folder).map((name) => join(cache.folder, name));
    // Process 999999999 is none.
    writeFileSync(join(entry!, 'held', '999999999-1.x'), '');
    await holdingFiles(() => cache.path('b', 900, fill(900)));
    expect(await cache.used()).toBe(900);
  });
  it('keeps what was made here, when nothing has to go for it', async () => {
    const cache = cacheOf(1000);
    await cache.take('a', fileOf(Buffer.alloc(600)), 600);
    await cache.path('a', 600, never);
    const large = fileOf(Buffer.alloc(2000));
    await cache.take('b', large, 2000);
    expect(existsSync(large)).toBe(false);
    expect(await cache.used()).toBe(600);
  });
});

describe('a store that is brought over', () => {
  it('is copied while both are used, can be broken off, and misses nothing that came meanwhile', async () => {
    const [from, to] = [new FolderStorage(join(folder, 'from')), bucket('to/')];
    for (const name of ['a', 'b', 'c']) await from.adopt(`files/${name}`, fileOf(Buffer.from(name.repeat(10))));
    const stop = new AbortController();
    const broken = await moveStore(from, to, { signal: stop.signal, tell: () => stop.abort() });
    expect(broken).toEqual({ done: 1, all: 3, bytes: 10 });
    const both = new MovingStorage(to, from);
    expect(await textOf(both, 'files/c')).toBe('cccccccccc');
    let isFirst = true;
    const moved = await moveStore(from, to, {
      tell: () => {
        // Somebody still writes to the old place.
        if (isFirst) void from.adopt('renders/late', fileOf(Buffer.from('late')));
        isFirst = false;
      },
    });
    expect(moved).toMatchObject({ done: 4, all: 4, bytes: 24 });
    expect(await textOf(to, 'renders/late')).toBe('late');
    expect(await moveStore(from, to)).toEqual({ done: 4, all: 4, bytes: 0 });
    expect((await from.list('')).length).toBe(4);
    // What was made anew at the new place stays; what was made anew at the old one is brought over.
    await sleep(1100);
    await to.adopt('files/a', fileOf(Buffer.from('anew')));
    await from.adopt('files/b', fileOf(Buffer.from('anew as well')));
    expect(await moveStore(from, to)).toMatchObject({ bytes: 12 });
    expect([await textOf(to, 'files/a'), await textOf(to, 'files/b')]).toEqual(['anew', 'anew as well']);
  });
});
