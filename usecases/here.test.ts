import {
  appendFileSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { bringIn } from '../data/bringIn';
import { closeDatabase, migrateDatabase } from '../data/db';
import { createProject } from '../data/projects';
import { hereKey, storage } from '../data/storage';
import { listTasks } from '../data/tasks';
import { fetchMedia } from './background/fetchMedia';
import { HereWatcher } from './background/watchHere';
import { changeFootage, showFootage } from './footage';
import { showHere, takeNewOf } from './here';
import { showProject } from './projects';
import { migrateQueue } from './queue';
import type { ValueOf } from './result';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-here-'));
const root = join(folder, 'footage');
const before = { ...process.env };
const film = join(folder, 'film.mp4');
/** Files of the demo with some bytes behind: other tests have the demo's own content in the same database. */
const own = (name: string, to: string) => {
  copyFileSync(`demo/media/${name}`, to);
  appendFileSync(to, folder);
};

describe.skipIf(!process.env.DATABASE_URL)('footage of this machine', () => {
  let project: string;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    process.env.BRIGHT_REEL_FOOTAGE = root;
    await migrateDatabase();
    await migrateQueue();
    own('captain-close.mp4', film);
    mkdirSync(join(root, 'Card 1/Clips'), { recursive: true });
    copyFileSync(film, join(root, 'Card 1/Clips/captain.mp4'));
    own('photo-crew.jpg', join(root, 'Card 1/crew.jpg'));
    writeFileSync(join(root, 'Card 1/index.bdm'), 'nothing');
    writeFileSync(join(root, 'Card 1/._crew.jpg'), 'nothing');
    writeFileSync(join(folder, 'secret.mp4'), 'not yours');
    symlinkSync(folder, join(root, 'way-out'));
    symlinkSync(join(folder, 'secret.mp4'), join(root, 'secret.mp4'));
  });
  beforeEach(async () => void (project = (await createProject('Pond')).id));
  afterAll(async () => {
    Object.assign(process.env, { BRIGHT_REEL_DATA: before.BRIGHT_REEL_DATA });
    delete process.env.BRIGHT_REEL_FOOTAGE;
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  const waiting = async () =>
    (await listTasks(project)).filter(({ kind, state }) => kind === 'fetch' && state === 'queued');
  const fetched = new Set<string>();
  const fetchAll = async () => {
    for (const task of (await waiting()).filter(({ id }) => !fetched.has(id) && fetched.add(id)))
      await fetchMedia({
        task,
        run: crypto.randomUUID(),
        signal: new AbortController().signal,
        progress: () => undefined,
        say: async () => undefined,
      });
  };
  const items = async () => ((await showProject(project)) as { value: ValueOf<typeof showProject> }).value.items;
  const bins = async () =>
    ((await showFootage(project)) as { value: ValueOf<typeof showFootage> }).value.bins.map(({ name }) => name);

  it('is shown below the allowed folder and nowhere else', async () => {
    expect(await showHere(project, 'Card 1')).toMatchObject({
      ok: true,
      value: { folders: [{ name: 'Clips', path: 'Card 1/Clips' }], files: [{ name: 'crew.jpg', isIn: false }] },
    });
    for (const path of ['..', 'way-out', '../data', 'Card 1/../..', 'Card 9', '/etc'])
      expect(await showHere(project, path), path).toMatchObject({ ok: false, why: 'missing' });
    expect(await storage().size(hereKey('secret.mp4'))).toBeNull();
    expect(await storage().size(hereKey('../secret.mp4'))).toBeNull();
    await expect(storage().localPath(hereKey('way-out/secret.mp4'))).rejects.toThrow('not there');
  });

  it('comes in with its folders as bins, where it lies, without a copy', async () => {
    expect(await changeFootage(project, 'here', { paths: ['Card 1'] })).toMatchObject({ ok: true });
    expect((await waiting()).map(({ title }) => title).sort()).toEqual(['captain.mp4', 'crew.jpg']);
    await fetchAll();
    expect((await items()).map(({ name, here }) => [name, here]).sort()).toEqual([
      ['captain.mp4', { path: 'Card 1/Clips/captain.mp4', isMissing: false }],
      ['crew.jpg', { path: 'Card 1/crew.jpg', isMissing: false }],
    ]);
    expect(await bins()).toEqual(['Card 1 / Clips', 'Card 1']);
    expect(existsSync(join(folder, 'data/store/files'))).toBe(false);
    expect(await showHere(project, 'Card 1/Clips')).toMatchObject({ value: { files: [{ isIn: true }] } });
    // Nothing of ours is written to it, and it is not taken away.
    await storage().remove(hereKey('Card 1/crew.jpg'));
    expect(existsSync(join(root, 'Card 1/crew.jpg'))).toBe(true);
    await expect(storage().adopt(hereKey('Card 1/crew.jpg'), film)).rejects.toThrow('not written');
  });

  it('is missing when it was moved or changed, and is found again by its content', async () => {
    await changeFootage(project, 'here', { paths: ['Card 1/Clips/captain.mp4'] });
    await fetchAll();
    mkdirSync(join(root, 'Archive'), { recursive: true });
    renameSync(join(root, 'Card 1/Clips/captain.mp4'), join(root, 'Archive/take 3.mp4'));
    const [item] = await items();
    expect(item!.here).toEqual({ path: 'Card 1/Clips/captain.mp4', isMissing: true });
    expect(await changeFootage(project, 'find-again', { ids: [item!.id] })).toEqual({ ok: true, value: {} });
    expect((await items())[0]!.here).toEqual({ path: 'Archive/take 3.mp4', isMissing: false });
    // Other content in its place is another file.
    writeFileSync(join(root, 'Archive/take 3.mp4'), 'something else');
    expect((await items())[0]!.here!.isMissing).toBe(true);
    const again = await changeFootage(project, 'find-again', { ids: [item!.id] });
    expect(again).toMatchObject({ ok: true, value: { left: [expect.stringContaining('“captain.mp4” lies nowhere')] } });
    // Brought in again from elsewhere it is the same item.
    copyFileSync(film, join(root, 'back.mp4'));
    await changeFootage(project, 'here', { paths: ['back.mp4'] });
    await fetchAll();
    expect((await items()).map(({ id, here }) => [id, here])).toEqual([
      [item!.id, { path: 'back.mp4', isMissing: false }],
    ]);
  });

  it('is taken into the store when it is brought in otherwise after it was lost', async () => {
    own('photo-builders.jpg', join(root, 'builders.jpg'));
    await changeFootage(project, 'here', { paths: ['builders.jpg'] });
    await fetchAll();
    renameSync(join(root, 'builders.jpg'), join(folder, 'builders.jpg'));
    expect((await items())[0]!.here!.isMissing).toBe(true);
    await bringIn(project, join(folder, 'builders.jpg'), 'builders.jpg', { copy: true });
    expect((await items()).map(({ name, here }) => [name, here])).toEqual([['builders.jpg', null]]);
  });

  it('new files of a watched folder come in by themselves, those that are known do not come again', async () => {
    mkdirSync(join(root, 'Card 2'), { recursive: true });
    own('photo-duel.jpg', join(root, 'Card 2/duel.jpg'));
    const faults: Error[] = [];
    const watcher = new HereWatcher((error) => faults.push(error));
    try {
      expect(await changeFootage(project, 'watch', { path: 'Card 2', on: 'yes' })).toMatchObject({ ok: true });
      await watcher.follow();
      await expect
        .poll(async () => (await waiting()).map(({ title }) => title), { timeout: 20_000 })
        .toEqual(['duel.jpg']);
      await fetchAll();
      expect(await bins()).toEqual(['Card 2']);
      own('photo-start.jpg', join(root, 'Card 2/start.jpg'));
      writeFileSync(join(root, 'Card 2/notes.txt'), 'nothing');
      await expect
        .poll(async () => (await waiting()).map(({ title }) => title).sort(), { timeout: 20_000 })
        .toEqual(['duel.jpg', 'start.jpg']);
      expect(await changeFootage(project, 'watch', { path: 'Card 2', on: 'no' })).toMatchObject({ ok: true });
      expect(await showHere(project, 'Card 2')).toMatchObject({ value: { isWatched: false } });
      expect(await changeFootage(project, 'watch', { path: 'Card 9', on: 'yes' })).toMatchObject({ ok: false });
      expect(faults).toEqual([]);
    } finally {
      await watcher.close();
    }
  });

  it('a file of a watched folder has one bin, whether it was chosen or came by itself', async () => {
    mkdirSync(join(root, 'Card 4/Day 1/Boat'), { recursive: true });
    own('photo-captain.jpg', join(root, 'Card 4/Day 1/Boat/captain.jpg'));
    await changeFootage(project, 'watch', { path: 'Card 4/Day 1', on: 'yes' });
    await changeFootage(project, 'watch', { path: 'Card 4', on: 'yes' });
    await changeFootage(project, 'here', { paths: ['Card 4/Day 1/Boat'] });
    await takeNewOf(project, 'Card 4/Day 1', new Map([['Card 4/Day 1/Boat/captain.jpg', false]]));
    await fetchAll();
    expect(await bins()).toEqual(['Card 4 / Day 1 / Boat']);
    expect((await waiting()).map(({ title }) => title)).toEqual(['captain.jpg']);
  });

  it('a copy that rested on its way is the same item when it is whole', async () => {
    mkdirSync(join(root, 'Card 3'), { recursive: true });
    own('child-laughs.mp4', join(root, 'whole.mp4'));
    const whole = readFileSync(join(root, 'whole.mp4'));
    rmSync(join(root, 'whole.mp4'));
    writeFileSync(join(root, 'Card 3/laughs.mp4'), whole.subarray(0, 5000));
    await changeFootage(project, 'here', { paths: ['Card 3/laughs.mp4'] });
    await fetchAll();
    const [half] = await items();
    writeFileSync(join(root, 'Card 3/laughs.mp4'), whole);
    await takeNewOf(project, 'Card 3', new Map([['Card 3/laughs.mp4', false]]));
    await fetchAll();
    expect(await items()).toMatchObject([
      { id: half!.id, size: whole.length, problem: null, here: { isMissing: false }, arrived: { kind: 'video' } },
    ]);
    // Nothing of it is new any more.
    const asked = (await waiting()).length;
    await takeNewOf(project, 'Card 3', new Map([['Card 3/laughs.mp4', false]]));
    expect(await waiting()).toHaveLength(asked);
  });

  it('a file whose beginning is written last is the same item with its last content, and can be found again', async () => {
    mkdirSync(join(root, 'Card 5'), { recursive: true });
    own('photo-start.jpg', join(root, 'Card 5/start.jpg'));
    const whole = Buffer.concat([readFileSync(join(root, 'Card 5/start.jpg')), Buffer.from('5')]);
    const begun = Buffer.from(whole);
    begun[begun.length - 1] = 0;
    writeFileSync(join(root, 'Card 5/start.jpg'), begun);
    await changeFootage(project, 'here', { paths: ['Card 5/start.jpg'] });
    await fetchAll();
    const [item] = await items();
    writeFileSync(join(root, 'Card 5/start.jpg'), whole);
    await takeNewOf(project, 'Card 5', new Map([['Card 5/start.jpg', true]]));
    await fetchAll();
    renameSync(join(root, 'Card 5/start.jpg'), join(root, 'Card 5/elsewhere.jpg'));
    expect(await changeFootage(project, 'find-again', { ids: [item!.id] })).toEqual({ ok: true, value: {} });
    expect((await items()).map(({ id, here }) => [id, here])).toEqual([
      [item!.id, { path: 'Card 5/elsewhere.jpg', isMissing: false }],
    ]);
  });

  it('comes into each of two projects that want it at the same time', async () => {
    const first = project;
    own('photo-evening.jpg', join(root, 'evening.jpg'));
    await changeFootage(first, 'here', { paths: ['evening.jpg'] });
    project = (await createProject('Other pond')).id;
    await changeFootage(project, 'here', { paths: ['evening.jpg'] });
    await fetchAll();
    expect((await items()).map(({ name }) => name)).toEqual(['evening.jpg']);
    project = first;
    await fetchAll();
    expect((await items()).map(({ name }) => name)).toEqual(['evening.jpg']);
  });

  it('says what is wrong with what was asked', async () => {
    expect(await changeFootage(project, 'here', {})).toMatchObject({ ok: false });
    const gone = await changeFootage(project, 'here', { paths: ['gone.mp4'] });
    expect(gone).toMatchObject({ ok: true, value: { left: ['“gone.mp4” is not there any more.'] } });
    delete process.env.BRIGHT_REEL_FOOTAGE;
    expect(await showHere(project, '')).toMatchObject({
      ok: false,
      sentence: 'No folder of this machine is set: see BRIGHT_REEL_FOOTAGE.',
    });
    process.env.BRIGHT_REEL_FOOTAGE = root;
  });
});
