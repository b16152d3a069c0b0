import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eq, sql } from 'drizzle-orm';
import { migrateQueue } from '#usecases/queue';
import { concurrencyOf } from '#usecases/background/workerKinds';
import { listTaskLines } from '#usecases/tasks';
import { showWork } from '#usecases/work';
import { closeDatabase, database, migrateDatabase } from './db';
import { createProject } from './projects';
import { workers } from './schema';
import { endTask, queueTask, startTask } from './tasks';
import { forgetWorker, lanesTaken, listWorkers, sayWorker } from './workers';

describe.skipIf(!process.env.DATABASE_URL)('workers', () => {
  let project = { id: '', name: '' };
  const reader = {
    id: randomUUID(),
    host: 'pier',
    pid: 7,
    slots: concurrencyOf(['read'], 2),
    runs: [],
    draining: false,
  };
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
    await database().delete(workers);
    project = await createProject('Work at the pond');
  });
  afterAll(async () => {
    await database().delete(workers);
    await closeDatabase();
  });
  const mine = async () => {
    const work = await showWork();
    const { waiting, failed, ...rest } = work.value;
    const own = ({ projectId }: { projectId: string | null }) => projectId === project.id;
    return { ...rest, waiting: waiting.filter(own), failed: failed.filter(own) };
  };

  it('are known by what they say, with what they are at; what nobody takes is said, on the screen of the project too', async () => {
    await sayWorker(reader);
    const [read, render] = [
      await queueTask({ projectId: project.id, kind: 'read', subject: randomUUID(), title: 'race.mp4' }),
      await queueTask({ projectId: project.id, kind: 'render', subject: randomUUID(), title: 'Pond' }),
    ];
    expect(await lanesTaken()).toEqual(new Set(['reading', 'glance']));
    const lines = await listTaskLines(project);
    expect(lines.find(({ id }) => id === render.id)!.waits).toMatch(/^waits: no worker is there that renders\./);
    expect(lines.find(({ id }) => id === read.id)!.waits).not.toMatch(/no worker is there/);
    expect(await mine()).toMatchObject({
      waiting: [
        { kind: 'read', count: 1 },
        { kind: 'render', count: 1 },
      ],
    });
    expect((await mine()).nobodyTakes).toContain('render');
    expect((await mine()).nobodyTakes).not.toContain('read');
    const run = randomUUID();
    await startTask(read.id, run);
    await sayWorker({ ...reader, runs: [run] as never[] });
    expect(await listWorkers()).toMatchObject([
      { host: 'pier', tasks: [{ title: 'race.mp4', project: 'Work at the pond' }] },
    ]);
    await endTask(read.id, run, 'failed', 'It sank.');
    expect((await mine()).failed).toMatchObject([{ title: 'race.mp4', sentence: 'It sank.' }]);
    expect((await listWorkers())[0]!.tasks).toEqual([]);
  });

  it('one that is drained takes nothing; one that is gone, or has not been heard of, is not there', async () => {
    await sayWorker({ ...reader, draining: true });
    expect([await lanesTaken(), (await listWorkers()).length]).toEqual([new Set(), 1]);
    const silent = { ...reader, id: randomUUID() };
    await sayWorker(silent);
    await database()
      .update(workers)
      .set({ heartbeatAt: sql`now() - interval '20 seconds'` })
      .where(eq(workers.id, silent.id));
    expect(await lanesTaken()).toEqual(new Set());
    expect(await listWorkers()).toHaveLength(1);
    await forgetWorker(reader.id);
    expect(await listWorkers()).toEqual([]);
  });
});
