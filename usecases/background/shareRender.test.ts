import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { closeDatabase, database, migrateDatabase } from '../../data/db';
import { createProject } from '../../data/projects';
import { createReel, openReel } from '../../data/reels';
import { madeStretches, takeStretch } from '../../data/renderStretches';
import { renders, renderStretches, tasks } from '../../data/schema';
import { scratchFolder, storage } from '../../data/storage';
import { findRender, queueRenders, startTask } from '../../data/tasks';
import { forgetWorker, listWorkers, sayWorker } from '../../data/workers';
import { migrateQueue } from '../queue';
import { helpWithRender, renderFile } from './renderFile';
import { runsNow, type Work } from './runTask';
import { concurrencyOf } from './workerKinds';
import { bringShipped } from '../testFootage';

const film = 'demo/media/race-day.mp4';
const folder = mkdtempSync(join(tmpdir(), 'bright-reel-share-'));
const before = { ...process.env };

describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))('a film that several workers make', () => {
  let project = '';
  let reelId = '';
  const pier = crypto.randomUUID();
  const worker = {
    id: pier,
    host: 'pier',
    pid: 7,
    slots: concurrencyOf(['render'], 1),
    runs: [] as string[],
    draining: false,
  };
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Shared')).id;
    const item = await bringShipped(project, 'race-day.mp4');
    const reel = assembleReel(
      'Race',
      [
        { media: item.id, start: 5, end: 95, name: 'race-day' },
        { media: item.id, start: 100, end: 245, name: 'race-day' },
      ],
      new Map([[item.id, { id: item.id, name: 'race-day', durationSeconds: 250 }]]),
      rates['30'],
      { width: 320, height: 180 },
      () => crypto.randomUUID(),
    );
    // What is drawn before a stretch is made is the same on both sides too.
    reel.titles = [{ id: 't', kind: 'lower', frame: 900, frames: 90, text: 'Race of the cardboard boats' }];
    reelId = await createReel(project, reel);
  });
  afterAll(async () => {
    await forgetWorker(pier);
    Object.assign(process.env, before);
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  /** A render whose task a worker has begun. */
  const ask = async () => {
    const { head } = (await openReel(reelId))!;
    const [id] = await queueRenders([
      {
        projectId: project,
        reelId,
        revision: head,
        name: 'Race',
        width: 320,
        height: 180,
        seconds: 235,
        format: 'mp4',
        quality: 'draft',
      },
    ]);
    const render = (await findRender(id!))!;
    const run = crypto.randomUUID();
    await startTask(render.taskId!, run);
    return { render, run };
  };
  const work = ({ render, run }: Awaited<ReturnType<typeof ask>>, over: Partial<Work> = {}): Work => ({
    task: { id: render.taskId, projectId: project, subject: render.id, title: '' } as Work['task'],
    run,
    signal: new AbortController().signal,
    progress: () => undefined,
    say: async () => undefined,
    ...over,
  });
  const bytesOf = async (id: string) => readFileSync(await storage().localPath((await findRender(id))!.storageKey!));
  /** Other tests put their own renders into the same queue; where nothing is said of it none waits. */
  const help = (id: string) =>
    helpWithRender(
      id,
      new AbortController().signal,
      () => true,
      async () => false,
    );
  const jobsFor = async (id: string) =>
    (
      await database().execute<{ key: string }>(
        sql`select key from graphile_worker.jobs where key like ${`help ${id} %`} order by key`,
      )
    ).rows.map(({ key }) => key);
  const left = async (id: string) => ({
    rows: await database().select().from(renderStretches).where(eq(renderStretches.renderId, id)),
    files: await storage().list(`stretches/${id}/`),
    scratch: readdirSync(scratchFolder()).filter((name) => name.includes(id)),
  });
  const nothing = { rows: [], files: [], scratch: [] };
  let alone: Buffer;

  it('made alone and made by three is the same to the byte; whoever is there is asked once, and nothing is left of it', async () => {
    const one = await ask();
    await renderFile(work(one));
    alone = await bytesOf(one.render.id);
    expect(await left(one.render.id)).toEqual(nothing);
    // Other tests forget all workers.
    const there = setInterval(() => void sayWorker(worker), 300);
    await sayWorker(worker);

    const many = await ask();
    const helpers: Promise<number>[] = [];
    const shares: number[] = [];
    const progress = (share: number) => {
      shares.push(share);
      if (helpers.length === 0) helpers.push(help(many.render.id), help(many.render.id));
    };
    await renderFile(work(many, { progress }));
    clearInterval(there);
    const made = await Promise.all(helpers);
    expect(made[0]! + made[1]!).toBeGreaterThanOrEqual(2);
    expect((await bytesOf(many.render.id)).equals(alone)).toBe(true);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    const asked = (await jobsFor(many.render.id)).filter((key) => key.endsWith(pier));
    expect(asked).toEqual([`help ${many.render.id} ${pier}`]);
    expect(await left(many.render.id)).toEqual(nothing);
  }, 300_000);

  it('a helper that dies, and one whose stretches are not to be had, cost nothing but time', async () => {
    process.env.BRIGHT_REEL_STALE_SECONDS = '2';
    const render = await ask();
    const { id } = render.render;
    // The leader was ended before its first stretch; a helper has made some.
    const stop = new AbortController();
    await expect(renderFile(work(render, { signal: stop.signal, progress: () => stop.abort() }))).rejects.toThrow(
      /Cancelled/,
    );
    const helper = new AbortController();
    const helped = helpWithRender(
      id,
      helper.signal,
      () => true,
      async () => false,
    ).catch(() => -1);
    const shown = async () => {
      await sayWorker({ ...worker, runs: runsNow() });
      return (await listWorkers()).find((each) => each.id === pier);
    };
    await expect.poll(shown, { timeout: 30_000 }).toMatchObject({ tasks: [], helps: [{ title: 'Race' }] });
    for (let tries = 0; (await storage().list(`stretches/${id}/`)).length < 2 && tries < 300; tries++) await sleep(100);
    // As if it were killed: what it was at stays its own until nobody has heard of it for long enough.
    helper.abort();
    await helped;
    const there = await storage().list(`stretches/${id}/`);
    expect(there.length).toBeGreaterThanOrEqual(2);
    const dead = crypto.randomUUID();
    await database().insert(renderStretches).values({ renderId: id, name: 'of another version', holder: dead });
    await storage().remove(there[0]!.key);
    await renderFile(work(render));
    expect((await bytesOf(id)).equals(alone)).toBe(true);
    expect(await left(id)).toEqual(nothing);
  }, 300_000);

  it('who helps stops when the render is cancelled, when one waits, and when it is done', async () => {
    const render = await ask();
    const { id, taskId } = render.render;
    await database().update(tasks).set({ cancelRequested: true }).where(eq(tasks.id, taskId!));
    // What it has begun is given up within seconds.
    expect(await help(id)).toBe(0);
    await database().update(tasks).set({ cancelRequested: false, state: 'queued' }).where(eq(tasks.id, taskId!));
    // Nobody renders it any more: whoever helped is free for it within seconds.
    expect(await help(id)).toBe(0);
    await database().update(tasks).set({ state: 'running' }).where(eq(tasks.id, taskId!));
    const waits = await ask();
    await database().update(tasks).set({ state: 'queued' }).where(eq(tasks.id, waits.render.taskId!));
    expect(await helpWithRender(id, new AbortController().signal, () => true)).toBe(0);
    await database().update(tasks).set({ state: 'cancelled' }).where(eq(tasks.id, waits.render.taskId!));
    await database().update(renders).set({ storageKey: 'renders/elsewhere.mp4' }).where(eq(renders.id, id));
    expect(await help(id)).toBe(0);
    expect(await help(crypto.randomUUID())).toBe(0);
  }, 60_000);

  it('a stretch is one’s own until it is made or nobody has heard of its maker', async () => {
    const { id } = (await ask()).render;
    const [one, two, three] = [crypto.randomUUID(), crypto.randomUUID(), crypto.randomUUID()];
    const names = ['a', 'b'];
    // All at once: nobody gets what another has.
    const taken = await Promise.all([one, two, three].map((run) => takeStretch(id, names, run, 60)));
    expect([...taken].sort()).toEqual(['a', 'b', null]);
    expect(await takeStretch(id, names, three, 0)).toBe('a');
    expect(await madeStretches(id, names)).toEqual(new Set());
    expect(await takeStretch(id, names, two, 60)).toBeNull();
    await database().update(renderStretches).set({ made: true }).where(eq(renderStretches.renderId, id));
    expect(await takeStretch(id, names, two, 0)).toBeNull();
    expect(await madeStretches(id, names)).toEqual(new Set(names));
  });
});
