import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { defaultLimits, defaultMix, defaultPieceLength } from '#core/moments';
import { readerVersion } from '#core/readings';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { removeDecision, saveDecision } from '#data/decisions';
import { savePick } from '#data/log';
import { createProject } from '#data/projects';
import { saveReading } from '#data/readings';
import { unpackReading } from '#media/read/readingPack';
import { storedParts } from './background/readFile';
import { migrateQueue } from './queue';
import { changeTaste, showTastes, writeTaste } from './tastes';

const film = 'demo/media/race-day.mp4';
describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))('a taste', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-taste-'));
  const before = { ...process.env };
  const projects: { id: string; media: string }[] = [];
  let taste = '';
  const learns = (project: string, own: string | null, forgotten: string[] = []) =>
    savePick(
      project,
      {
        mix: defaultMix,
        limits: defaultLimits,
        piece: defaultPieceLength,
        variety: 50,
        arrangement: 'story',
        targetSeconds: null,
        water: null,
        learning: { on: true, forgotten, taste: own },
        photoSeconds: 4,
      },
      forgotten.length > 0 ? 1 : 0,
    );
  const decision = (media: string, start: number, verdict: 'keep' | 'drop') => ({
    id: crypto.randomUUID(),
    media,
    start,
    end: start + 5,
    verdict,
  });
  const shown = async (project: string) => {
    const answer = await showTastes(project, taste);
    if (!answer.ok) throw new Error(answer.sentence);
    return answer.value;
  };
  const changed = async (body: object) => {
    const answer = await changeTaste(projects[0]!.id, body);
    if (!answer.ok) throw new Error(answer.sentence);
    return answer.value.id;
  };
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    for (const name of ['Spring fair', 'Pond day']) {
      const { id } = await createProject(name);
      const item = await bringIn(id, film, 'race-day.mp4', { copy: true });
      projects.push({ id, media: item.id });
      await saveReading({
        hash: item.fileHash,
        parameters: '',
        version: readerVersion,
        ...storedParts(unpackReading(readFileSync('demo/readings/race-day.mp4/reading.json.gz'))!),
        proxyKey: null,
        tookSeconds: 0,
      });
    }
    taste = await changed({ intent: 'add', name: '  Village events ' });
  });
  afterAll(async () => {
    Object.assign(process.env, before);
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('goes on in another project with what was kept and dropped in the first', async () => {
    const [spring, pond] = projects as [(typeof projects)[0], (typeof projects)[0]];
    await learns(spring.id, taste);
    await saveDecision(spring.id, decision(spring.media, 80, 'keep'));
    const dropped = decision(spring.media, 170, 'drop');
    await saveDecision(spring.id, dropped);
    // Its own choices are known to its screen.
    expect(await shown(spring.id)).toMatchObject({ others: [], projects: 0 });
    const first = await shown(pond.id);
    expect(first.projects).toBe(1);
    expect(first.others.map(({ kept }) => kept)).toEqual([true, false]);
    // Somebody talks before a still camera at 1:20; at 2:50 it moves.
    expect(first.others[0]!.means.talk).toBeGreaterThan(0.5);
    expect(first.others.map(({ means }) => means.camera > 0.5)).toEqual([false, true]);
    expect(first.tastes.find(({ id }) => id === taste)).toEqual({
      id: taste,
      name: 'Village events',
      brought: 0,
      projects: 1,
    });
    // A stretch that is changed afterwards teaches what it is then.
    await saveDecision(spring.id, { ...dropped, start: 81, end: 84 });
    expect((await shown(pond.id)).others[1]!.means.camera).toBeLessThan(0.1);
    await removeDecision(spring.id, dropped.id);
    expect((await shown(pond.id)).others).toHaveLength(1);
  });
  it('is left by a project that takes another, and forgets what was forgotten there', async () => {
    const [spring, pond] = projects as [(typeof projects)[0], (typeof projects)[0]];
    const more = decision(spring.media, 30, 'drop');
    await saveDecision(spring.id, more);
    expect((await shown(pond.id)).others).toHaveLength(2);
    await learns(spring.id, taste, [more.id]);
    expect((await shown(pond.id)).others).toHaveLength(1);
  });
  it('is taken along as a file and brought in elsewhere, under another name', async () => {
    const written = await writeTaste(taste);
    if (!written.ok) throw new Error(written.sentence);
    expect(JSON.parse(written.value.text)).toMatchObject({ format: 'bright-reel-taste', name: 'Village events' });
    const there = await changed({ intent: 'bring', text: written.value.text });
    expect(there).not.toBe(taste);
    await changed({ intent: 'rename', id: there, name: 'Fairs' });
    const answer = await showTastes(projects[1]!.id, there);
    expect(answer).toMatchObject({ ok: true, value: { others: [{ kept: true }], projects: 0 } });
    const own = answer.ok ? answer.value.tastes.find(({ id }) => id === there) : null;
    expect(own).toMatchObject({ name: 'Fairs', brought: 1, projects: 0 });
  });
  it('can be removed and brought back', async () => {
    await changed({ intent: 'remove', id: taste });
    expect(await shown(projects[1]!.id)).toMatchObject({ others: [], projects: 0 });
    expect(await writeTaste(taste)).toMatchObject({ why: 'missing' });
    await changed({ intent: 'restore', id: taste });
    expect((await shown(projects[1]!.id)).others).toHaveLength(1);
  });
  it.each([
    [{ intent: 'add', name: ' ' }, /name of 1 to 60 characters/],
    [{ intent: 'rename', id: crypto.randomUUID() }, /Give the taste a name/],
    [{ intent: 'bring', text: 'no JSON' }, /holds no taste: it is not JSON/],
    [{ intent: 'bring', text: '{"format":"bright-reel-taste","version":2,"name":"x","examples":[]}' }, /later version/],
    [
      {
        intent: 'bring',
        text: '{"format":"bright-reel-taste","version":1,"name":"x","examples":[{"kept":true,"means":{"talk":7}}]}',
      },
      /holds no taste of Bright Reel/,
    ],
    [{ intent: 'burn' }, /.+/],
  ])('what does not fit is refused in a sentence: %j', async (body, sentence) => {
    const answer = await changeTaste(projects[0]!.id, body);
    expect(answer).toMatchObject({ ok: false, sentence: expect.stringMatching(sentence) as string });
  });
});
