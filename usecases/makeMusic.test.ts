import { appendFileSync, copyFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { bringIn } from '../data/bringIn';
import { closeDatabase, migrateDatabase } from '../data/db';
import { findFile, listMedia } from '../data/media';
import { createProject } from '../data/projects';
import { storage } from '../data/storage';
import { listTasks } from '../data/tasks';
import { hearMusicIn } from '../media/read/hearMusic';
import { makeMusic } from './background/makeMusic';
import { makeMusicOf } from './makeMusic';
import { migrateQueue, queueArrival } from './queue';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-make-music-'));
const before = process.env.BRIGHT_REEL_DATA;
const truthOf = (name: string) =>
  JSON.parse(readFileSync(`demo/media/${name}.truth.json`, 'utf8')) as { beats: number[]; bpm?: number };

describe.skipIf(!process.env.DATABASE_URL)('music made of other music', () => {
  let project: string;
  let sails: string;
  let shoes: string;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    await migrateDatabase();
    await migrateQueue();
  });
  afterAll(async () => {
    Object.assign(process.env, { BRIGHT_REEL_DATA: before });
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  /** A song of the demo with some bytes behind: other tests have its own content in the same database. */
  const song = async (name: string) => {
    const file = join(folder, `${name}-${project}.m4a`);
    copyFileSync(`demo/media/${name}.m4a`, file);
    appendFileSync(file, project);
    const row = await bringIn(project, file, `${name}.m4a`, { copy: true });
    await queueArrival(row);
    return row.id;
  };
  beforeEach(async () => {
    project = (await createProject('Pond')).id;
    sails = await song('paper-sails');
    shoes = await song('dry-shoes');
  });
  /** Does what was asked for. @returns the item that was made, its sound, and what was said */
  const made = async () => {
    const task = (await listTasks(project)).find(({ kind }) => kind === 'music')!;
    const sentence = await makeMusic({
      task,
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    });
    const item = (await listMedia(project)).find(({ name }) => name === task.title)!;
    const file = await findFile(item.hash);
    return { item, sentence, hearing: await hearMusicIn(await storage().localPath(file!.storageKey)) };
  };

  it('is a song shortened at its bars: the beat goes on over every join', async () => {
    expect(await makeMusicOf(project, { parts: [{ media: sails }], seconds: 30 })).toEqual({
      ok: true,
      value: { title: 'paper-sails, 0:30.flac' },
    });
    const { hearing, sentence } = await made();
    const step = 60 / 112;
    // To three bars of four beats.
    expect(Math.abs(hearing.durationSeconds - 30)).toBeLessThan(3 * 4 * step);
    expect(sentence).toMatch(/^0:\d\d long, joined at 0:\d\d/);
    // The song keeps 112 beats a minute (its truth); one pulse runs through all of what was made of it.
    const phase = truthOf('paper-sails').beats[0]!;
    const off = hearing.grid.beats.map((beat) => {
      const steps = (beat - phase) / step;
      return Math.abs(steps - Math.round(steps)) * step;
    });
    expect(off.filter((seconds) => seconds < 0.03).length / off.length).toBeGreaterThan(0.95);
  });

  it('is several songs one after the other, from downbeat to downbeat', async () => {
    const wish = {
      parts: [
        { media: sails, from: 4, to: 20.5 },
        { media: shoes, to: 15 },
      ],
    };
    expect(await makeMusicOf(project, wish)).toMatchObject({ ok: true });
    const { item, hearing, sentence } = await made();
    expect(item.name).toMatch(/^paper-sails \+ dry-shoes, 0:3\d\.flac$/);
    const bar = (4 * 60) / 112;
    // Whole bars of the first song; the second from its first downbeat on.
    const first = Math.round(16.5 / bar) * bar;
    const [minutes, seconds] = /joined at (\d+):(\d\d)/.exec(sentence!)!.slice(1).map(Number) as [number, number];
    expect(Math.abs(minutes * 60 + seconds - first)).toBeLessThan(bar / 2 + 1);
    expect(Math.abs(hearing.durationSeconds - 31)).toBeLessThan(4);
  });

  it('is refused in a sentence where there is nothing to make, or nothing to make it of', async () => {
    const refusals: [unknown, RegExp][] = [
      [{ parts: [] }, /Choose a song/],
      [{ parts: [{ media: sails }] }, /^This would be the song as it is/],
      [{ parts: [{ media: sails }], seconds: 2 }, /at least five seconds/],
      [{ parts: [{ media: sails, from: 50, to: 20 }], seconds: 20 }, /nothing is left/],
      [{ parts: [{ media: project }], seconds: 20 }, /not in the project any more/],
      [null, /\w/],
    ];
    for (const [wish, sentence] of refusals)
      expect(await makeMusicOf(project, wish)).toMatchObject({
        ok: false,
        sentence: expect.stringMatching(sentence) as string,
      });
    expect((await listTasks(project)).some(({ kind }) => kind === 'music')).toBe(false);
  });
});
