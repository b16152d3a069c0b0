import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '../../data/bringIn';
import { closeDatabase, migrateDatabase } from '../../data/db';
import { keyOf } from '../../data/media';
import { createProject } from '../../data/projects';
import { findReading } from '../../data/readings';
import { storage } from '../../data/storage';
import { subjectOf } from '../../data/tasks';
import { bucketSettings, Line } from '../../data/testStore';
import { holdingFiles } from '../../data/localCache';
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
    expect(existsSync(join(folder, 'data/store'))).toBe(false);
    expect(readdirSync(join(folder, 'data')).sort()).toEqual(['cache', 'scratch']);
  });
});
