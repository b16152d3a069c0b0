import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { findMedia, type MediaRow } from '#data/media';
import { createProject } from '#data/projects';
import { activeTask, requestCancel, subjectOf } from '#data/tasks';
import { migrateQueue } from './queue';
import { ffmpeg } from '../media/testMedia';
import { readRange } from './readRange';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-range-'));

describe.skipIf(!process.env.DATABASE_URL)('a reading range before the first reading', () => {
  let item: MediaRow;
  const before = process.env.BRIGHT_REEL_DATA;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    ffmpeg('-f', 'lavfi', '-i', `sine=${Math.round(Math.random() * 1000) + 200}:d=90`, join(folder, 'talk.wav'));
    item = await bringIn((await createProject('Ranges')).id, join(folder, 'talk.wav'), 'talk.wav', { copy: true });
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
  });
  const task = (parameters: string) => activeTask('read', subjectOf({ hash: item.fileHash, parameters }));

  it('is held against the file itself', async () => {
    expect(await readRange(item, 540, 600)).toBe('“talk.wav” lasts 1:30.0. The range would begin after its end.');
    expect(await findMedia(item.id)).toMatchObject({ parameters: '', nextParameters: null });
  });
  it('is read in place of the whole; another one in place of that', async () => {
    expect(await readRange(item, 10, 40)).toBeNull();
    expect((await findMedia(item.id))!.parameters).toBe('10.00-40.00');
    expect(await task('10.00-40.00')).not.toBeNull();
    expect(await readRange((await findMedia(item.id))!, 20, null)).toBeNull();
    expect([await task('10.00-40.00'), (await findMedia(item.id))!.parameters]).toEqual([null, '20.00-end']);
  });
  it('cancelled, leaves the whole file to be read', async () => {
    await requestCancel(item.projectId, (await task('20.00-end'))!.id);
    expect(await findMedia(item.id)).toMatchObject({ parameters: '', readFrom: null });
  });
  it('of a file that cannot be measured is refused', async () => {
    const broken = await bringIn(item.projectId, 'package.json', 'broken.mp4', { copy: true });
    expect(await readRange(broken, 1, 2)).toMatch(/How long this file is cannot be told/);
  });
});
