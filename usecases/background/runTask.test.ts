import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { Cancelled, MediaError } from '#media/process';
import { closeDatabase, database, migrateDatabase } from '../../data/db';
import { createProject } from '../../data/projects';
import { findTask, queueTask, requestCancel, startTask, type Task } from '../../data/tasks';
import { migrateQueue } from '../queue';
import { runTask, sentenceFor } from './runTask';

describe.skipIf(!process.env.DATABASE_URL)('a run of a task', () => {
  let project = '';
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Runs')).id;
  });
  afterAll(closeDatabase);
  const make = () => queueTask({ projectId: project, kind: 'render', subject: crypto.randomUUID(), title: 'film' });
  const after = async (task: Task) => {
    const { state, sentence } = (await findTask(task.id))!;
    return { state, sentence };
  };

  it('that fails unexpectedly leaves the task waiting and its worker free, until the last attempt says why', async () => {
    const task = await make();
    const fail = () => Promise.reject(Object.assign(new Error('spawn E2BIG'), { code: 'E2BIG' }));
    await expect(runTask(task.id, false, undefined, fail)).rejects.toThrow('E2BIG');
    expect(await after(task)).toEqual({ state: 'queued', sentence: null });
    await expect(runTask(task.id, true, undefined, fail)).rejects.toThrow('E2BIG');
    expect(await after(task)).toEqual({
      state: 'failed',
      sentence: 'This is too large for one call of ffmpeg. Make it in two parts.',
    });
  });
  it('that fails for a reason of the material ends at once with its sentence', async () => {
    const task = await make();
    await runTask(task.id, false, undefined, () => Promise.reject(new MediaError('The disk is full.')));
    expect(await after(task)).toEqual({ state: 'failed', sentence: 'The disk is full.' });
  });
  it('of a worker that is stopped goes back to the queue', async () => {
    const task = await make();
    const stop = new AbortController();
    const run = runTask(
      task.id,
      true,
      stop.signal,
      ({ signal }) => new Promise((_, reject) => signal.addEventListener('abort', () => reject(new Cancelled()))),
    );
    setTimeout(() => stop.abort(), 50);
    await expect(run).rejects.toThrow(Cancelled);
    expect(await after(task)).toEqual({ state: 'queued', sentence: null });
  });
  it('that another worker took the task from stops by itself and changes nothing', async () => {
    const task = await make();
    const run = runTask(
      task.id,
      true,
      undefined,
      ({ signal }) => new Promise((_, reject) => signal.addEventListener('abort', () => reject(new Error('stopped')))),
    );
    await new Promise((wake) => setTimeout(wake, 100));
    await startTask(task.id, 'the other one');
    await run;
    expect(await after(task)).toEqual({ state: 'running', sentence: null });
    await database().$client.query("update tasks set state = 'done' where id = $1", [task.id]);
  });
  it('counts as alive while its process does nothing but compute', async () => {
    const task = await make();
    const client = await database().$client.connect();
    let seconds = Infinity;
    await runTask(task.id, false, undefined, async () => {
      await new Promise((wake) => setTimeout(wake, 1500));
      for (const until = Date.now() + 6000; Date.now() < until;);
      // On a connection that is open already: nothing else was sent since.
      const { rows } = await client.query<{ age: number }>(
        'select extract(epoch from now() - heartbeat_at)::float as age from tasks where id = $1',
        [task.id],
      );
      seconds = rows[0]!.age;
      return null;
    });
    client.release();
    expect(seconds).toBeLessThan(4);
  });
  it('waits while the disk is full, says so, and goes on when there is room', async () => {
    const task = await make();
    process.env.BRIGHT_REEL_RESERVE_BYTES = String(1e15);
    const run = runTask(task.id, false, undefined, async () => 'Done after all.');
    await vi.waitFor(async () =>
      expect((await after(task)).sentence).toMatch(/^Waits for room: .* goes on by itself\.$/),
    );
    delete process.env.BRIGHT_REEL_RESERVE_BYTES;
    await run;
    expect(await after(task)).toEqual({ state: 'done', sentence: 'Done after all.' });
  });
  it('that is broken off because the disk is full begins again when there is room', async () => {
    const task = await make();
    let tries = 0;
    const run = runTask(task.id, false, undefined, async () => {
      if (++tries > 1) return null;
      process.env.BRIGHT_REEL_RESERVE_BYTES = String(1e15);
      throw Object.assign(new Error('no space left'), { code: 'ENOSPC' });
    });
    await vi.waitFor(async () => expect((await after(task)).sentence).toMatch(/^Waits for room/));
    delete process.env.BRIGHT_REEL_RESERVE_BYTES;
    await run;
    expect([tries, (await after(task)).state]).toEqual([2, 'done']);
  });
  it('that is cancelled ends as cancelled', async () => {
    const task = await make();
    const run = runTask(
      task.id,
      false,
      undefined,
      ({ signal }) => new Promise((_, reject) => signal.addEventListener('abort', () => reject(new Error('stopped')))),
    );
    await new Promise((wake) => setTimeout(wake, 100));
    await requestCancel(project, task.id);
    await run;
    expect(await after(task)).toEqual({ state: 'cancelled', sentence: 'Cancelled.' });
  });
});

describe('what a fault means', () => {
  const fault = (code: string) => Object.assign(new Error('x'), { code });
  it.each([
    ['ENOSPC', /disk is full/],
    ['ENOENT', /has vanished/],
    ['EACCES', /may not read or write/],
    ['E2BIG', /too large/],
    ['ENOMEM', /memory/],
  ])('%s', (code, sentence) => expect(sentenceFor(fault(code), 'render')).toMatch(sentence));
  it('anything else is said as it was said, once, and what is safe', () => {
    expect(sentenceFor(new Error('connection terminated\n at somewhere'), 'render')).toBe(
      'The render stopped: connection terminated. What you edited is safe; the log of the worker says more.',
    );
    expect(sentenceFor(undefined, 'read')).toMatch(/^The work stopped: /);
  });
});
