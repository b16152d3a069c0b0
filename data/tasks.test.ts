import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { migrateQueue } from '../usecases/queue';
import { closeDatabase, database, migrateDatabase } from './db';
import { createProject } from './projects';
import { createReel } from './reels';
import {
  activeTask,
  aheadOf,
  endTask,
  findRender,
  findTask,
  forgetDeadJobs,
  giveBack,
  heartbeat,
  lanes,
  listRenders,
  listTasks,
  putTaskAway,
  queueRenderAgain,
  queueRenders,
  queueTask,
  requestCancel,
  startTask,
  takeUpLost,
  whatWaits,
  type NewRender,
  type Task,
} from './tasks';

const run = () => crypto.randomUUID();

describe.skipIf(!process.env.DATABASE_URL)('tasks and their jobs', () => {
  let [project, other] = ['', ''];
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Tasks')).id;
    other = (await createProject('Other tasks')).id;
  });
  afterAll(closeDatabase);

  const make = (kind: Task['kind'] = 'read', projectId = project, title = 't') =>
    queueTask({ projectId, kind, subject: crypto.randomUUID(), title });
  const jobs = async (task: Task) =>
    (
      await database().$client.query<{
        attempts: number;
        max_attempts: number;
        priority: number;
        locked_at: Date | null;
      }>('select attempts, max_attempts, priority, locked_at from graphile_worker.jobs where key = $1', [task.id])
    ).rows;
  const state = async (task: Task) => (await findTask(task.id))!.state;
  const finish = async (...tasks: Task[]) => {
    for (const task of tasks)
      await database().$client.query("update tasks set state = 'done' where id = $1", [task.id]);
    await database().$client.query('delete from graphile_worker._private_jobs where key = any($1)', [
      tasks.map(({ id }) => id),
    ]);
  };

  it('renders come with their tasks, all of them or none; one that failed is tried again, an active one is left alone', async () => {
    const reelId = await createReel(project, {
      schema: 'BrightReel.Reel.1',
      name: 'x',
      rate: rates['25'],
      size: { width: 16, height: 16 },
      tracks: [{ kind: 'picture', name: 'Main', items: [] }],
    });
    const wanted = (name: string, of = reelId): NewRender => ({
      projectId: project,
      reelId: of,
      revision: 0,
      name,
      width: 16,
      height: 16,
      seconds: 2,
      format: 'mp4',
      quality: 'draft',
      range: null,
    });
    // The second names a reel that is not there: nothing of the first stays.
    await expect(queueRenders([wanted('one'), wanted('two', crypto.randomUUID())])).rejects.toThrow();
    expect(await listRenders(project)).toEqual([]);
    expect((await listTasks(project)).filter(({ kind }) => kind === 'render')).toEqual([]);

    const [id] = await queueRenders([wanted('one')]);
    const first = (await activeTask('render', id!))!;
    expect([(await findRender(id!))!.taskId, await jobs(first)]).toEqual([first.id, [expect.anything()]]);
    await queueRenderAgain(id!);
    expect((await findRender(id!))!.taskId).toBe(first.id);
    await database().$client.query("update tasks set state = 'failed' where id = $1", [first.id]);
    await queueRenderAgain(id!);
    const second = (await activeTask('render', id!))!;
    expect([second.id === first.id, (await findRender(id!))!.taskId]).toEqual([false, second.id]);
    await finish(first, second);
  });
  it('row and job come together, once for the same subject however many ask at the same time', async () => {
    const subject = crypto.randomUUID();
    const asked = await Promise.all(
      Array.from({ length: 12 }, () => queueTask({ projectId: project, kind: 'read', subject, title: 't' })),
    );
    expect(new Set(asked.map(({ id }) => id)).size).toBe(1);
    expect(await jobs(asked[0]!)).toHaveLength(1);
    // A row without a job, or a job without a row, cannot come about: what fails in between leaves neither.
    await database().$client.query('alter table tasks add constraint no_such_title check (title <> $$broken$$)');
    try {
      // Other tests queue work in the same database meanwhile.
      const orphans = async () =>
        (
          await database().$client.query(
            'select key from graphile_worker.jobs where key is not null and key not in (select id::text from tasks)',
          )
        ).rowCount;
      const before = await orphans();
      await expect(
        queueTask({ projectId: project, kind: 'read', subject: crypto.randomUUID(), title: 'broken' }),
      ).rejects.toThrow();
      expect(await orphans()).toBe(before);
    } finally {
      await database().$client.query('alter table tasks drop constraint no_such_title');
    }
    await finish(asked[0]!);
    const again = await queueTask({ projectId: project, kind: 'read', subject, title: 't' });
    expect(again.id).not.toBe(asked[0]!.id);
    await finish(again);
  });

  it('is cancelled while it waits, and while it runs its worker hears of it', async () => {
    const waiting = await make();
    await requestCancel(project, waiting.id);
    expect([await state(waiting), await startTask(waiting.id, run())]).toEqual(['cancelled', null]);
    const running = await make();
    const own = run();
    expect((await startTask(running.id, own))!.attempts).toBe(1);
    expect(await heartbeat(running.id, own, 0.5, 10)).toBe('on');
    await requestCancel(project, running.id);
    expect(await heartbeat(running.id, own, 0.6, 8)).toBe('cancel');
    await endTask(running.id, own, 'cancelled');
    expect(await state(running)).toBe('cancelled');
    await finish(waiting, running);
  });

  it('a run that lost its task to another hears of it, and can no longer end it', async () => {
    const task = await make();
    const [slow, quick] = [run(), run()];
    await startTask(task.id, slow);
    await startTask(task.id, quick);
    expect(await heartbeat(task.id, slow, 0.9, 1)).toBe('lost');
    await endTask(task.id, slow, 'failed', 'from the slow one');
    await giveBack(task.id, slow);
    expect([await state(task), (await findTask(task.id))!.sentence]).toEqual(['running', null]);
    await endTask(task.id, quick, 'done');
    expect(await state(task)).toBe('done');
    await finish(task);
  });

  it('what lost its worker goes back to the queue with a job that can run; jobs of others stay locked', async () => {
    const [lost, alive] = [await make(), await make()];
    await startTask(lost.id, run());
    await startTask(alive.id, run());
    // Both jobs are held by the same process, as its pool names itself.
    await database().$client.query(
      "update graphile_worker._private_jobs set locked_at = now(), locked_by = 'pool-1', attempts = 1 where key = any($1)",
      [[lost.id, alive.id]],
    );
    await database().$client.query("update tasks set heartbeat_at = now() - interval '1 minute' where id = $1", [
      lost.id,
    ]);
    expect((await takeUpLost(20)).map(({ id }) => id)).toContain(lost.id);
    expect([await state(lost), await state(alive)]).toEqual(['queued', 'running']);
    expect(await jobs(lost)).toMatchObject([{ attempts: 0, locked_at: null }]);
    expect((await jobs(alive))[0]!.locked_at).not.toBeNull();
    await finish(lost, alive);
    await database().$client.query("delete from graphile_worker._private_jobs where locked_by = 'pool-1'");
  });

  it('what waits without a job gets one; what was cancelled meanwhile, or cost its worker too often, ends', async () => {
    const [jobless, cancelled, deadly] = [await make(), await make(), await make()];
    await database().$client.query('delete from graphile_worker._private_jobs where key = any($1)', [
      [jobless.id, cancelled.id],
    ]);
    await database().$client.query('update tasks set cancel_requested = true where id = $1', [cancelled.id]);
    await database().$client.query(
      "update tasks set state = 'running', attempts = 5, heartbeat_at = now() - interval '1 hour' where id = $1",
      [deadly.id],
    );
    await takeUpLost(20);
    expect([await state(jobless), await state(cancelled), await state(deadly)]).toEqual([
      'queued',
      'cancelled',
      'failed',
    ]);
    expect(await jobs(jobless)).toHaveLength(1);
    expect((await findTask(deadly.id))!.sentence).toMatch(/ended 5 times/);
    // Nothing is put back a second time.
    expect((await takeUpLost(20)).map(({ id }) => id)).not.toContain(jobless.id);
    await finish(jobless, cancelled, deadly);
  });

  it('what a worker took and died before it began is given to another; its job is forgotten in time', async () => {
    const [dead, taken] = [await make(), await make()];
    const lock = (task: Task, when: string, attempts: number) =>
      database().$client.query(
        `update graphile_worker._private_jobs set locked_at = now() - interval '${when}', locked_by = 'pool-dead', attempts = $2 where key = $1`,
        [task.id, attempts],
      );
    await lock(dead, '1 minute', 1);
    await lock(taken, '1 second', 1);
    const found = (await takeUpLost(20)).map(({ id }) => id);
    expect([found.includes(dead.id), found.includes(taken.id)]).toEqual([true, false]);
    expect(await jobs(dead)).toMatchObject([{ attempts: 0, locked_at: null }]);
    const left = () =>
      database()
        .$client.query("select id from graphile_worker.jobs where locked_by = 'pool-dead' and key is null")
        .then(({ rows }) => rows.length);
    expect(await left()).toBe(1);
    await database().$client.query(
      "update graphile_worker._private_jobs set locked_at = now() - interval '300 days' where locked_by = 'pool-dead' and key is null",
    );
    expect(await forgetDeadJobs(200)).toBe(1);
    expect(await left()).toBe(0);
    await finish(dead, taken);
  });

  it('projects take turns: two files of one do not wait for two hundred of another', async () => {
    const many: Task[] = [];
    // In a lane in which no other test has anything waiting.
    for (let index = 0; index < 20; index++) many.push(await make('post', project, `many ${index}`));
    const few = [await make('post', other, 'few 0'), await make('post', other, 'few 1')];
    const order = [...many, ...few]
      .sort((a, b) => a.rank - b.rank || +a.createdAt - +b.createdAt)
      .map(({ title }) => title);
    expect(order.slice(0, 4)).toEqual(['many 0', 'few 0', 'many 1', 'few 1']);
    expect((await jobs(few[1]!))[0]!.priority).toBe(few[1]!.rank);
    await finish(...many, ...few);
  });

  it('readings do not wait for renders: what goes before a task is counted in its own lane', async () => {
    const row = (id: string, kind: Task['kind'], state: Task['state'], own = 'Tasks') => ({
      id,
      kind,
      state,
      title: `${id}.mp4`,
      project: own,
      secondsLeft: state === 'running' ? 30 : null,
      workSeconds: 20,
      progress: 0,
    });
    const render = row('film', 'render', 'running');
    expect(aheadOf([render, row('first', 'read', 'queued')]).get('first')).toEqual({
      count: 0,
      running: null,
      seconds: null,
    });
    const ahead = aheadOf([
      render,
      row('first', 'read', 'running'),
      row('second', 'read', 'queued', 'Other'),
      row('third', 'read', 'queued'),
    ]);
    const running = { kind: 'read', title: 'first.mp4', project: 'Tasks' };
    expect(ahead.get('third')).toEqual({ count: 2, running, seconds: 50 });
    // Two side by side: the second takes the place that is free first, the third the other one. Reading is slow here.
    const two = ['second', 'third'].map((id) => row(id, 'read', 'queued'));
    const pair = [row('first', 'read', 'running'), { ...row('other', 'read', 'running'), secondsLeft: 10 }, ...two];
    const begin = aheadOf(pair, { read: 3 });
    expect(two.map(({ id }) => begin.get(id)!.seconds)).toEqual([10, 30]);
    expect(ahead.has('first')).toBe(false);
    // Every kind of work has a lane, and only one.
    const kinds = Object.values(lanes).flat();
    expect([new Set(kinds).size, kinds.length]).toEqual([15, 15]);
    const waiting = await make();
    expect((await whatWaits()).get(waiting.id)!.count).toBeGreaterThanOrEqual(0);
    await finish(waiting);
  });

  it('a file that another project has read is not shown as forgotten here', async () => {
    const hash = 'c'.repeat(64);
    await database().$client.query(
      "insert into files (hash, size, storage_key) values ($1, 1, 'x') on conflict do nothing",
      [hash],
    );
    await database().$client.query('insert into media (project_id, file_hash, name) values ($1, $2, $3)', [
      other,
      hash,
      'shared.mp4',
    ]);
    const task = await queueTask({ projectId: project, kind: 'read', subject: hash, title: 'shared.mp4' });
    expect((await listTasks(other)).map(({ id }) => id)).toContain(task.id);
    expect((await activeTask('read', hash))!.id).toBe(task.id);
    await finish(task);
  });

  it('one that is over can be put away, in its own project; one that is on its way cannot', async () => {
    const task = await make();
    const listed = async () => (await listTasks(project)).some(({ id }) => id === task.id);
    expect(await putTaskAway(project, task.id)).toBe(false);
    await database().$client.query("update tasks set state = 'failed', ended_at = now() where id = $1", [task.id]);
    expect(await putTaskAway(other, task.id)).toBe(false);
    expect(await listed()).toBe(true);
    expect(await putTaskAway(project, task.id)).toBe(true);
    expect([await listed(), await state(task)]).toEqual([false, 'failed']);
    await finish(task);
  });
});
