import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { findMedia, listMedia, type MediaRow } from '#data/media';
import { binNamed, createProject, listBins } from '#data/projects';
import { activeTask, requestCancel, subjectOf } from '#data/tasks';
import { migrateQueue } from './queue';
import { ffmpeg } from '../media/testMedia';
import { changeFootage, takeUpload } from './footage';
import { rangeFrom, readAnew } from './readRange';

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
    expect(await readAnew(item, { range: rangeFrom(540, 600) })).toBe(
      '“talk.wav” lasts 1:30.0. The range would begin after its end.',
    );
    expect(await findMedia(item.id)).toMatchObject({ parameters: '', nextParameters: null });
  });
  it('is read in place of the whole; another one in place of that', async () => {
    expect(await readAnew(item, { range: rangeFrom(10, 40) })).toBeNull();
    expect((await findMedia(item.id))!.parameters).toBe('10.00-40.00');
    expect(await task('10.00-40.00')).not.toBeNull();
    expect(await readAnew((await findMedia(item.id))!, { range: rangeFrom(20, null) })).toBeNull();
    expect([await task('10.00-40.00'), (await findMedia(item.id))!.parameters]).toEqual([null, '20.00-end']);
  });
  it('cancelled, leaves the whole file to be read', async () => {
    await requestCancel(item.projectId, (await task('20.00-end'))!.id);
    expect(await findMedia(item.id)).toMatchObject({ parameters: '', readFrom: null });
  });
  it('of several files at once: those that hold it are read so, the others are named', async () => {
    ffmpeg('-f', 'lavfi', '-i', `sine=${Math.round(Math.random() * 1000) + 200}:d=20`, join(folder, 'short.wav'));
    const short = await bringIn(item.projectId, join(folder, 'short.wav'), 'short.wav', { copy: true });
    const asked = await changeFootage(item.projectId, 'range', { ids: [item.id, short.id], from: '0:30', to: '' });
    expect(asked).toEqual({
      ok: true,
      value: { left: ['“short.wav” lasts 0:20.0. The range would begin after its end.'] },
    });
    expect([(await findMedia(item.id))!.parameters, (await findMedia(short.id))!.parameters]).toEqual([
      '30.00-end',
      '',
    ]);
    expect(await changeFootage(item.projectId, 'range', { ids: [item.id], from: 'soon', to: '' })).toMatchObject({
      ok: false,
    });
  });
  it('what a file is stands beside it as soon as it has arrived', async () => {
    ffmpeg('-f', 'lavfi', '-i', `sine=${Math.round(Math.random() * 1000) + 200}:d=7`, join(folder, 'new.wav'));
    const id = await takeUpload(item.projectId, join(folder, 'new.wav'), 'new.wav', null, 'Pond / Bank');
    const [row] = (await listMedia(item.projectId)).filter((each) => each.id === id);
    expect(row).toMatchObject({ probe: null, arrived: { kind: 'sound', durationSeconds: 7 } });
    const named = (await listBins(item.projectId)).filter(({ name }) => name === 'Pond / Bank');
    expect(named.map((bin) => bin.id)).toEqual([row!.binId]);
    // The same bin, however many ask for it at once.
    const ids = await Promise.all(Array.from({ length: 8 }, () => binNamed(item.projectId, 'Two at once')));
    expect(new Set(ids.map((bin) => bin.id)).size).toBe(1);
  });
  it('of a file that cannot be measured is refused', async () => {
    const broken = await bringIn(item.projectId, 'package.json', 'broken.mp4', { copy: true });
    expect(await readAnew(broken, { range: rangeFrom(1, 2) })).toMatch(/How long this file is cannot be told/);
  });
});
