import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '../../data/bringIn';
import { closeDatabase, database, migrateDatabase } from '../../data/db';
import { findFile, keyOf, type MediaRow } from '../../data/media';
import { createProject } from '../../data/projects';
import { findReading } from '../../data/readings';
import { storage } from '../../data/storage';
import { queueTask, subjectOf } from '../../data/tasks';
import { bucketSettings, Line } from '../../data/testStore';
import { holdingFiles } from '../../data/localCache';
import { nearestTask } from './nearestTask';
import { migrateQueue } from '../queue';
import { findPlayable, findSheet } from '../readings';
import { openStored } from '../stored';
import { readFile } from './readFile';
import type { Work } from './runTask';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-bucket-'));
const line = new Line();
const before = { ...process.env };

describe.skipIf(!process.env.DATABASE_URL)('an installation whose files lie in a bucket', () => {
  beforeAll(async () => {
    const endpoint = await line.open(join(folder, 'bucket'));
    Object.assign(process.env, bucketSettings(endpoint, join(folder, 'data')), {
      BRIGHT_REEL_S3_BROWSERS: endpoint,
      BRIGHT_REEL_CACHE_BYTES: '30000000',
    });
    await migrateDatabase();
    await migrateQueue();
  });
  afterAll(async () => {
    process.env = before;
    await closeDatabase();
    await line.close();
    rmSync(folder, { recursive: true, force: true });
  });

  async function theNearestGoesFirst(project: string, near: MediaRow) {
    const file = join(folder, 'far.mp4');
    writeFileSync(file, 'a film that is far away');
    const far = await bringIn(project, file, 'far.mp4');
    await rm(join(folder, 'data/cache'), { recursive: true, force: true });
    await storage().localPath((await findFile(near.fileHash))!.storageKey);
    const queued = async (item: MediaRow) =>
      queueTask({ projectId: project, kind: 'words', subject: subjectOf(keyOf(item), 'en'), title: item.name });
    const tasks = [await queued(far), await queued(near)] as const;
    const { $client } = database();
    // Others use the same queue meanwhile.
    for (const [index, { id }] of tasks.entries())
      await $client.query('update tasks set rank = $2 where id = $1', [id, 31_000 + index]);
    const jobsOf = async ({ id }: { id: string }) =>
      (await $client.query('select id from graphile_worker.jobs where key = $1 and locked_at is null', [id])).rows
        .length;
    const take = ({ id }: { id: string }) =>
      $client.query(
        'update graphile_worker._private_jobs set locked_at = now(), locked_by = $2 where key = $1 and locked_at is null',
        [id, 'pier'],
      );
    await take(tasks[0]);
    expect(await nearestTask(tasks[0].id)).toEqual({ id: tasks[1].id, kind: 'words' });
    // The far one waits for whoever is free next; the near one is nobody else's.
    expect([await jobsOf(tasks[0]), await jobsOf(tasks[1])]).toEqual([1, 0]);
    await take(tasks[0]);
    expect(await nearestTask(tasks[0].id)).toEqual({ id: tasks[0].id, kind: null });
    expect(await nearestTask(tasks[1].id)).toEqual({ id: tasks[1].id, kind: null });
    expect(await nearestTask(crypto.randomUUID())).toMatchObject({ kind: null });
  }

  it('reads a film over a line that fails now and then, and keeps nothing beside the cache', async () => {
    const project = (await createProject('Pond far away')).id;
    line.faults = ['pass', '503', 'cut', 'pass', '500'];
    const item = await bringIn(project, 'demo/media/child-laughs.mp4', 'child-laughs.mp4', { copy: true });
    const key = keyOf(item);
    const task = {
      id: crypto.randomUUID(),
      projectId: project,
      subject: subjectOf(key),
      title: item.name,
    } as Work['task'];
    const work = {
      task,
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    };
    line.faults = ['pass', 'cut', 'flip', '503'];
    await holdingFiles(() => readFile(work));
    expect(await findReading(key)).not.toBeNull();
    const [file, sheet] = [await findPlayable(item.id), await findSheet(item.id, 1)];
    for (const found of [file, sheet]) {
      if (!found.ok) throw new Error(found.sentence);
      const stored = (await openStored(typeof found.value === 'string' ? found.value : found.value.key))!;
      const address = (await stored.address({}))!;
      expect((await (await fetch(address)).arrayBuffer()).byteLength).toBe(stored.size);
    }
    expect((await storage().list('readings/')).map(({ key: name }) => name.split('/').at(-1))).toContain(
      'sheet-0001.jpg',
    );
    // What has just been read is here; another would have to be fetched, and waits its turn.
    await theNearestGoesFirst(project, item);
    expect(existsSync(join(folder, 'data/store'))).toBe(false);
    expect(readdirSync(join(folder, 'data')).sort()).toEqual(['cache', 'scratch']);
  });
});
