import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { closeDatabase, migrateDatabase } from '#data/db';
import { listRows } from '#data/media';
import { createProject } from '#data/projects';
import { storage } from '#data/storage';
import { bucketSettings, Line } from '../../data/testStore';
import { migrateQueue } from '#usecases/queue';
import { takeUploadLock, freeUploadLock } from '#data/uploads';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-uploads-'));
const line = new Line();
const before = { ...process.env };
const text = (value: string) => Buffer.from(value).toString('base64');

/** A web server of its own: nothing in memory is shared with another one but the database and the bucket. */
async function webServer() {
  vi.resetModules();
  const { action } = await import('./upload');
  return (method: string, path: string, headers: Record<string, string>, body?: BodyInit) =>
    action({
      request: new Request(`http://127.0.0.1:4310${path}`, {
        method,
        headers: { 'Tus-Resumable': '1.0.0', ...headers },
        ...(body === undefined ? {} : { body, duplex: 'half' }),
      }),
    } as Parameters<typeof action>[0]);
}

describe.skipIf(!process.env.DATABASE_URL)('an upload whose parts come to several web servers', () => {
  beforeAll(async () => {
    const endpoint = await line.open(join(folder, 'bucket'));
    Object.assign(process.env, bucketSettings(endpoint, join(folder, 'data')));
    await migrateDatabase();
    await migrateQueue();
  });
  afterAll(async () => {
    process.env = before;
    await closeDatabase();
    await line.close();
    rmSync(folder, { recursive: true, force: true });
  });
  const patch = (offset: number) => ({
    'Upload-Offset': String(offset),
    'Content-Type': 'application/offset+octet-stream',
  });

  it('goes on at any of them where it stopped, also in the middle of a part; the file is what was sent', async () => {
    const [one, two] = [await webServer(), await webServer()];
    const project = (await createProject('Several servers')).id;
    const film = randomBytes(21_000_000);
    const made = await one('POST', '/upload', {
      'Upload-Length': String(film.length),
      'Upload-Metadata': `projectId ${text(project)},filename ${text('race.mp4')}`,
    });
    expect(made.status).toBe(201);
    const address = made.headers.get('location')!;
    const offset = async (server: typeof one) =>
      Number((await server('HEAD', address, {})).headers.get('upload-offset'));
    expect((await one('PATCH', address, patch(0), film.subarray(0, 3_000_000))).status).toBe(204);
    expect(await offset(two)).toBe(3_000_000);
    // The line to the second breaks after 18 MB: what came is kept.
    const broken = new ReadableStream<Uint8Array>({
      start(to) {
        to.enqueue(film.subarray(3_000_000, 20_500_000));
        setTimeout(() => to.error(new Error('gone')), 100);
      },
    });
    await two('PATCH', address, patch(3_000_000), broken).catch(() => undefined);
    await vi.waitFor(async () => expect(await offset(one)).toBe(20_500_000), 10_000);
    // Who goes on from what is not there any more is told so.
    expect((await two('PATCH', address, patch(3_000_000), film.subarray(3_000_000, 4_000_000))).status).toBe(409);
    const last = await one('PATCH', address, patch(20_500_000), film.subarray(20_500_000));
    expect([last.status, last.headers.get('upload-item')]).toEqual([204, (await listRows(project))[0]!.id]);
    const { fileHash } = (await listRows(project))[0]!;
    expect(fileHash).toBe(createHash('sha256').update(film).digest('hex'));
    // Nothing is left of the parts, in the bucket or here.
    expect(await storage().list('uploads/')).toEqual([]);
    expect(readdirSync(join(folder, 'data/scratch'))).toEqual([]);
    expect((await two('HEAD', address, {})).status).toBe(404);
  });

  it('waits for whoever is at it, and not for one who is gone', async () => {
    const [mine, theirs] = [crypto.randomUUID(), crypto.randomUUID()];
    expect(await takeUploadLock('boat', mine)).toBe(true);
    expect([await takeUploadLock('boat', theirs), await takeUploadLock('boat', mine)]).toEqual([false, true]);
    await freeUploadLock('boat', theirs);
    expect(await takeUploadLock('boat', theirs)).toBe(false);
    await freeUploadLock('boat', mine);
    expect(await takeUploadLock('boat', theirs)).toBe(true);
    await freeUploadLock('boat', theirs);
    const { UploadLock } = await import('#usecases/uploads');
    const [holder, next] = [new UploadLock('raft'), new UploadLock('raft')];
    const letGo = vi.fn(() => holder.unlock());
    await holder.lock(AbortSignal.timeout(5000), letGo);
    await next.lock(AbortSignal.timeout(10_000), () => undefined);
    expect(letGo).toHaveBeenCalled();
    await expect(new UploadLock('raft').lock(AbortSignal.timeout(500), () => undefined)).rejects.toThrow();
    await next.unlock();
  });
});
