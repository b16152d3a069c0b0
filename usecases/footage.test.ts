import { appendFileSync, copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '../data/bringIn';
import { closeDatabase, database, migrateDatabase } from '../data/db';
import { findMedia } from '../data/media';
import { forgetBins } from '../data/collect';
import { createProject, listBins } from '../data/projects';
import { changeFootage } from './footage';
import { migrateQueue } from './queue';
import { showCamera } from './readings';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-footage-'));

describe.skipIf(!process.env.DATABASE_URL)('items of a project', () => {
  let project: string;
  let other: string;
  let item: string;
  const before = process.env.BRIGHT_REEL_DATA;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    await migrateDatabase();
    await migrateQueue();
    [project, other] = [(await createProject('Pond')).id, (await createProject('Another pond')).id];
    const photo = join(folder, 'crew.jpg');
    copyFileSync('demo/media/photo-crew.jpg', photo);
    appendFileSync(photo, folder);
    item = (await bringIn(project, photo, 'IMG_0042.jpg', { copy: true })).id;
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  const rename = (name: string, of = project) => changeFootage(of, 'rename', { ids: [item], name });
  const nameNow = async () => (await findMedia(item))!.name;

  it('are renamed; what the file is stays in its ending', async () => {
    expect((await rename('  the crew ')).ok).toBe(true);
    expect(await nameNow()).toBe('the crew.jpg');
  });
  it.each([
    ['without a name', '  ', 'Give a name of 1 to 120 characters.'],
    ['with a slash, of which folders are made', 'boats/crew', 'A name has no slashes in it.'],
    ['with a sign that no name has', 'boats\u0007', 'A name has no slashes in it.'],
  ])('not %s', async (_, name, says) => {
    const answer = await rename(name);
    expect(answer.ok ? null : Object.values(answer.problems)).toEqual([says]);
    expect(await nameNow()).toBe('the crew.jpg');
  });
  it('not by another project', async () => {
    expect(await rename('mine', other)).toMatchObject({ ok: false });
    expect(await nameNow()).toBe('the crew.jpg');
  });
  it('lie in bins, which are renamed, deleted and brought back with what lies in them', async () => {
    await changeFootage(project, 'new-bin', { name: 'Boats' });
    const [bin] = await listBins(project);
    const change = (intent: string, more = {}, of = project) => changeFootage(of, intent, { bin: bin!.id, ...more });
    await changeFootage(project, 'move', { ids: [item], binId: bin!.id });
    expect((await change('rename-bin', { name: 'Cardboard boats' })).ok).toBe(true);
    expect((await listBins(project)).map(({ name }) => name)).toEqual(['Cardboard boats']);
    expect(await change('rename-bin', { name: '' })).toMatchObject({ ok: false, why: 'refused' });
    expect(await change('delete-bin', {}, other)).toMatchObject({ ok: false, why: 'missing' });
    expect((await change('delete-bin')).ok).toBe(true);
    expect(await listBins(project)).toEqual([]);
    expect((await findMedia(item))!.removedAt).toBeNull();
    await change('bring-back-bin');
    expect((await listBins(project)).map(({ id }) => id)).toEqual([bin!.id]);
    expect((await findMedia(item))!.binId).toBe(bin!.id);
    await change('delete-bin');
    await database().$client.query("update bins set removed_at = now() - interval '400 days' where id = $1", [bin!.id]);
    await forgetBins(300);
    expect([
      (await findMedia(item))!.binId,
      await changeFootage(project, 'bring-back-bin', { bin: bin!.id }),
    ]).toMatchObject([null, { ok: false, why: 'missing' }]);
  });
  it('more than can be meant at once is refused with a sentence', async () => {
    const answer = await changeFootage(project, 'move', { ids: Array<string>(20_001).fill(item) });
    expect(answer.ok ? null : Object.values(answer.problems)).toEqual(['At most 20,000 items at once.']);
  });
  it('of what has not been read yet, how the camera moved is not known, which is no fault', async () => {
    expect(await showCamera(item)).toEqual({ ok: true, value: null });
    expect((await showCamera(project)).ok).toBe(false);
  });
});
