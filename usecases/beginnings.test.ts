import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { readerVersion } from '#core/readings';
import { clipsOf } from '#core/reel';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { keyOf, setProblem } from '#data/media';
import { changeProject, createProject, findProject } from '#data/projects';
import { coarse, saveReading } from '#data/readings';
import { deleteReel, listVersions, openReel, reelNames } from '#data/reels';
import { unpackReading } from '#media/read/readingPack';
import { storedParts } from './background/readFile';
import { begin, showBeginning } from './beginnings';
import { changeProjects, firstPlace, showHome, startProject } from './projects';
import { migrateQueue } from './queue';

const film = 'demo/media/race-day.mp4';
describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))('a project that is begun with files', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-begin-'));
  const before = { ...process.env };
  let project = '';
  /** A file like one of the demo whose content nobody else has; the same again in one project. */
  const own = async (name: string) => {
    const path = join(folder, `${project}-${name}`);
    if (!existsSync(path))
      writeFileSync(path, Buffer.concat([readFileSync(`demo/media/${name}`), Buffer.from(project)]));
    return bringIn(project, path, name, { copy: true });
  };
  const bring = async (name: string, isRough = false) => {
    const item = await own(name);
    await saveReading({
      ...(isRough ? coarse(keyOf(item)) : keyOf(item)),
      version: readerVersion,
      ...storedParts(unpackReading(readFileSync(`demo/readings/${name}/reading.json.gz`))!),
      proxyKey: null,
      tookSeconds: 0,
    });
    return item;
  };
  const made = async (given: Record<string, string>) => {
    const answer = await begin(project, given);
    if (!answer.ok) throw new Error(answer.sentence);
    return answer.value;
  };
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
  });
  beforeEach(async () => {
    const started = await startProject({ name: 'Begun', aim: 'reel', withFiles: true });
    project = started.ok ? started.value.id : '';
  });
  afterAll(async () => {
    Object.assign(process.env, before);
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('opens where it is begun until something is made, then where everything is', async () => {
    expect(await firstPlace(project)).toMatchObject({ value: 'begin' });
    await bring('race-day.mp4');
    const { made: reel, isFirstLook } = await made({ intent: 'make', aim: 'reel' });
    expect(isFirstLook).toBe(false);
    expect(await firstPlace(project)).toMatchObject({ value: 'moments' });
    const shown = await showBeginning(project);
    expect(shown).toMatchObject({ ok: true, value: { aim: 'reel', made: reel } });
    // Once the reel is deleted, it may be made again.
    await deleteReel(project, (reel as { reel: string }).reel);
    expect(await showBeginning(project)).toMatchObject({ value: { made: null } });
  });
  it('asked twice at once, as by a reload in the middle, it makes one', async () => {
    await bring('race-day.mp4');
    const [first, second] = await Promise.all([
      made({ intent: 'make', aim: 'reel' }),
      made({ intent: 'make', aim: 'reel' }),
    ]);
    expect(second).toEqual(first);
    expect(await reelNames(project)).toHaveLength(1);
  });
  it('the reel is about as long as is usual, tells why each piece is there, and shows photos as well', async () => {
    for (const name of ['race-day.mp4', 'captain-close.mp4', 'photo-crew.jpg']) await bring(name);
    const { made: reel } = await made({ intent: 'make', aim: 'reel' });
    const { document } = (await openReel((reel as { reel: string }).reel))!;
    const pieces = clipsOf(document);
    expect(pieces.length).toBeGreaterThan(5);
    for (const { name, reason } of pieces)
      expect([name.length > 0, reason]).toEqual([true, expect.stringMatching(/ of 100/)]);
    expect(new Set(pieces.map(({ name }) => name)).size).toBe(pieces.length);
    expect(new Set(pieces.map(({ media }) => media)).size).toBe(3);
  });
  it('what was made from a first look is made again in its place, as one step of its history', async () => {
    await bring('race-day.mp4', true);
    const first = await made({ intent: 'make', aim: 'reel' });
    expect(first.isFirstLook).toBe(true);
    await bring('race-day.mp4');
    const again = await made({ intent: 'again', aim: 'reel' });
    expect(again).toEqual({ ...first, isFirstLook: false });
    const reel = (await openReel((again.made as { reel: string }).reel))!;
    expect(reel.canUndo).toBe(true);
    expect(await listVersions(reel.id)).toEqual([]);
  });
  it('shorts come from the longest film; a montage needs music', async () => {
    for (const name of ['captain-close.mp4', 'race-day.mp4']) await bring(name);
    const { made: shorts } = await made({ intent: 'make', aim: 'shorts' });
    expect(shorts).toEqual({ shorts: expect.any(String) as string });
    expect(await begin(project, { intent: 'make', aim: 'montage' })).toMatchObject({
      why: 'refused',
      problems: { music: expect.any(String) as string },
    });
    const song = await bring('paper-sails.m4a');
    expect(await made({ intent: 'make', aim: 'montage' })).toMatchObject({ made: { music: song.id } });
    await made({ intent: 'aim', aim: 'montage' });
    // Its beats are asked for.
    expect(await showBeginning(project)).toMatchObject({
      value: { made: null, music: { id: song.id, isHeard: false } },
    });
  });
  it('nothing is made of nothing, and the sentence says so', async () => {
    expect(await begin(project, { intent: 'make', aim: 'reel' })).toMatchObject({
      why: 'refused',
      sentence: expect.stringContaining('no film') as string,
    });
    expect(await begin(project, { intent: 'make', aim: 'shorts' })).toMatchObject({ why: 'refused' });
    expect(await begin(project, { intent: 'make', aim: 'opera' })).toMatchObject({ why: 'refused' });
    expect(await startProject({ name: 'Begun', aim: 'opera', withFiles: true })).toMatchObject({ why: 'refused' });
  });
  it('the first screen tells what is in a project; it is renamed, copied, put away, deleted and brought back', async () => {
    const item = await bring('race-day.mp4');
    await bring('paper-sails.m4a');
    const broken = await own('photo-crew.jpg');
    await setProblem(keyOf(broken), 'It cannot be read.');
    const shown = async (id = project) => (await showHome()).projects.find((each) => each.id === id)!;
    expect(await shown()).toMatchObject({
      items: 3,
      films: 1,
      sounds: 1,
      read: 2,
      failed: 1,
      poster: { media: item.id, kind: 'video' },
    });
    expect((await shown()).seconds).toBeCloseTo(252, -1);
    await changeProjects({ id: project, intent: 'rename', name: ' Regatta ' });
    expect((await shown()).name).toBe('Regatta');
    const copy = await changeProjects({ id: project, intent: 'copy' });
    expect(await shown(copy.ok ? copy.value.id : '')).toMatchObject({ name: 'Regatta, copy', items: 3, read: 2 });
    await changeProjects({ id: project, intent: 'put-away' });
    expect(await shown()).toMatchObject({ isPutAway: true, isRemoved: false });
    await changeProjects({ id: project, intent: 'delete' });
    expect(await shown()).toMatchObject({ isRemoved: true });
    expect(await showBeginning(project)).toMatchObject({ why: 'missing' });
    await changeProjects({ id: project, intent: 'bring-back' });
    expect(await shown()).toMatchObject({ isRemoved: false, items: 3 });
    expect(await changeProjects({ id: project, intent: 'rename', name: ' ' })).toMatchObject({ why: 'refused' });
    expect(await changeProjects({ id: crypto.randomUUID(), intent: 'delete' })).toMatchObject({ why: 'missing' });
  });
  it('a project that was begun by its name opens where footage comes in', async () => {
    const { id } = await createProject('By name');
    expect(await firstPlace(id)).toMatchObject({ value: 'footage' });
    expect(await firstPlace('👨‍👩‍👧‍👦')).toMatchObject({ ok: false, why: 'missing' });
    await changeProject(id, { name: 'Other' });
    expect((await findProject(id))!.beginning).toBeNull();
  });
});
