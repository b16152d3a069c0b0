import { mkdtempSync } from 'node:fs';
import { mkdir, readdir, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { bringIn } from './bringIn';
import { forgetProjects, forgetTakenOut, measureStore, sweepStore, sweepUploads } from './collect';
import { closeDatabase, database, migrateDatabase } from './db';
import { bringBack, takeOut, type MediaRow } from './media';
import { changeProject, createProject } from './projects';
import { createReel } from './reels';
import { filesBelow, storage, storeFolder, uploadFolder } from './storage';

const before = process.env.BRIGHT_REEL_DATA;
const data = mkdtempSync(join(tmpdir(), 'bright-reel-collect-'));

describe.skipIf(!process.env.DATABASE_URL)('what nothing refers to', () => {
  let project = '';
  let other = '';
  let count = 0;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = data;
    await migrateDatabase();
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
  });
  beforeEach(async () => {
    project = (await createProject('Pond')).id;
    other = (await createProject('Other pond')).id;
  });

  const bring = async (into: string, text = `boat ${count++}`): Promise<MediaRow> => {
    const file = join(data, 'in.mp4');
    await writeFile(file, text);
    return bringIn(into, file, 'boat.mp4', { copy: true });
  };
  const keyOf = async ({ fileHash }: MediaRow) =>
    (await filesBelow(storeFolder())).find(({ key }) => key.includes(fileHash))?.key;
  /** As if it had come yesterday. */
  const age = async (path: string, days = 1) => {
    const then = new Date(Date.now() - days * 86_400_000);
    await utimes(path, then, then);
  };
  /** Others use the same tables meanwhile: only what was removed in another year is meant here. */
  const years = 300;
  const removedLongAgo = (table: 'media' | 'projects', id: string) =>
    database().$client.query(`update ${table} set removed_at = now() - interval '400 days' where id = $1`, [id]);
  const takeOutLongAgo = async (projectId: string, id: string) => {
    await takeOut(projectId, [id]);
    await removedLongAgo('media', id);
  };
  const ageAll = async () => {
    for (const { key } of await filesBelow(storeFolder())) await age(join(storeFolder(), key));
  };

  it('stays as long as an item, also one that was taken out, is of it; and goes with the last', async () => {
    const [item, twin] = [await bring(project, 'twins'), await bring(other, 'twins')];
    await ageAll();
    await takeOut(project, [item.id]);
    expect([await forgetTakenOut(years), await sweepStore()]).toEqual([0, 0]);
    await bringBack(project, [item.id]);
    await takeOutLongAgo(project, item.id);
    expect([await forgetTakenOut(years), await sweepStore()]).toEqual([1, 0]);
    expect(await keyOf(twin)).toBeDefined();
    const before = (await measureStore()).freeable.takenOut.bytes;
    await takeOutLongAgo(other, twin.id);
    expect((await measureStore()).freeable.takenOut.bytes - before).toBe(5);
    expect([await forgetTakenOut(years), await sweepStore()]).toEqual([1, 5]);
    expect(await keyOf(twin)).toBeUndefined();
    // The same content comes again as if it had never been there.
    expect(await keyOf(await bring(project, 'twins'))).toBeDefined();
  });
  it('is no item that a reel needs in any of its states', async () => {
    const item = await bring(project);
    const reel = assembleReel(
      'R',
      [{ media: item.id, start: 0, end: 2, name: 'boat' }],
      new Map([[item.id, { id: item.id, name: 'boat', durationSeconds: 9 }]]),
      rates['25'],
      { width: 2, height: 2 },
      () => 'c',
    );
    await createReel(project, reel);
    await takeOutLongAgo(project, item.id);
    await ageAll();
    expect(await forgetTakenOut(years)).toBe(0);
    await sweepStore();
    expect(await keyOf(item)).toBeDefined();
  });
  it('is no song of a montage, and nothing that a montage or variants show', async () => {
    const [song, shown, tried] = [await bring(project), await bring(project), await bring(project)];
    const { $client } = database();
    const montage = JSON.stringify({ pieces: [{ media: shown.id }] });
    await $client.query('insert into montages (project_id, media_id, document) values ($1, $2, $3)', [
      project,
      song.id,
      montage,
    ]);
    await $client.query("insert into boards (project_id, kind, document) values ($1, 'variants', $2)", [
      project,
      JSON.stringify({ music: { media: tried.id } }),
    ]);
    for (const { id } of [song, shown, tried]) await takeOutLongAgo(project, id);
    expect(await forgetTakenOut(years)).toBe(0);
    expect((await $client.query('select 1 from montages where project_id = $1', [project])).rows).toHaveLength(1);
  });
  it('goes with a deleted project once its time is over, finished files too', async () => {
    const item = await bring(project);
    const film = join(storeFolder(), 'renders/0b0a7000-0000-4000-8000-00000000beef.mp4');
    await mkdir(dirname(film), { recursive: true });
    await writeFile(film, 'a film that no render is of');
    await ageAll();
    const before = (await measureStore()).freeable.unreferred.count;
    await changeProject(project, { removedAt: new Date() });
    expect(await forgetProjects(years)).toBe(0);
    await removedLongAgo('projects', project);
    expect(await forgetProjects(years)).toBe(1);
    expect((await measureStore()).freeable.unreferred.count - before).toBe(1);
    await sweepStore();
    expect(await keyOf(item)).toBeUndefined();
    expect(await readdir(dirname(film))).toEqual([]);
  });
  it('is left alone while it is fresh: something may be about to refer to it', async () => {
    const item = await bring(project);
    await takeOutLongAgo(project, item.id);
    await forgetTakenOut(years);
    expect(await sweepStore()).toBe(0);
    expect(await keyOf(item)).toBeDefined();
    // What is brought in again is fresh again.
    await ageAll();
    await storage().keepFresh((await keyOf(item))!);
    expect(await sweepStore()).toBe(0);
  });
  it('readings go with their file, in the database too', async () => {
    const item = await bring(project);
    const sheet = join(storeFolder(), `readings/${item.fileHash}/1/sheet-0.jpg`);
    await mkdir(dirname(sheet), { recursive: true });
    await writeFile(sheet, 'thumbnails');
    await ageAll();
    await takeOutLongAgo(project, item.id);
    await forgetTakenOut(years);
    await sweepStore();
    expect((await filesBelow(storeFolder())).filter(({ key }) => key.includes(item.fileHash))).toEqual([]);
    const left = await database().$client.query('select 1 from files where hash = $1', [item.fileHash]);
    expect(left.rows).toEqual([]);
  });
  it('uploads go when they were broken off a week ago', async () => {
    await mkdir(uploadFolder(), { recursive: true });
    for (const [name, days] of [
      ['old', 8],
      ['young', 2],
    ] as const) {
      await writeFile(join(uploadFolder(), name), 'half');
      await age(join(uploadFolder(), name), days);
    }
    expect(await sweepUploads(7)).toBe(4);
    expect(await readdir(uploadFolder())).toEqual(['young']);
  });
});
