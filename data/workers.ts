import { and, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import { database } from './db';
import { projects, renders, renderStretches, tasks, workers } from './schema';
import type { Lane, Task } from './tasks';

/** One that has not been heard of for so long is not there any more. */
const goneSeconds = 15;
export const isThere = gt(workers.heartbeatAt, sql`now() - make_interval(secs => ${goneSeconds})`);

/** A worker as it says of itself. */
export interface WorkerState {
  id: string;
  host: string;
  pid: number;
  slots: Record<Lane, number>;
  runs: string[];
  draining: boolean;
}

/** A worker says that it is there; those that have gone without a word are forgotten. */
export async function sayWorker(state: WorkerState): Promise<void> {
  const now = { runs: state.runs, draining: state.draining, heartbeatAt: sql`now()` };
  await database().insert(workers).values(state).onConflictDoUpdate({ target: workers.id, set: now });
  await database()
    .delete(workers)
    .where(lt(workers.heartbeatAt, sql`now() - make_interval(secs => ${4 * goneSeconds})`));
}

/** A worker takes its leave. */
export const forgetWorker = (id: string) => database().delete(workers).where(eq(workers.id, id));

/** Lanes of which some worker takes tasks. */
export async function lanesTaken(): Promise<Set<Lane>> {
  const rows = await database()
    .select({ slots: workers.slots })
    .from(workers)
    .where(and(isThere, eq(workers.draining, false)));
  return new Set(rows.flatMap(({ slots }) => (Object.keys(slots) as Lane[]).filter((lane) => (slots[lane] ?? 0) > 0)));
}

/** Workers that are there, first those that came first, with the tasks that they are at, and the renders of others that they help with. */
export async function listWorkers() {
  const rows = await database().select().from(workers).where(isThere).orderBy(workers.startedAt);
  const runs = rows.flatMap((row) => row.runs);
  const atWork = runs.length
    ? await database()
        .select({ ...shown, run: tasks.workerId })
        .from(tasks)
        .leftJoin(projects, eq(projects.id, tasks.projectId))
        .where(and(inArray(tasks.workerId, runs), eq(tasks.state, 'running')))
    : [];
  const helps = runs.length
    ? await database()
        .select({ id: renders.id, title: renders.name, run: renderStretches.holder })
        .from(renderStretches)
        .innerJoin(renders, eq(renders.id, renderStretches.renderId))
        .where(and(inArray(renderStretches.holder, runs), eq(renderStretches.made, false)))
    : [];
  const rendering = new Set(atWork.map(({ run }) => run));
  return rows.map((row) => ({
    id: row.id,
    host: row.host,
    pid: row.pid,
    slots: row.slots,
    draining: row.draining,
    startedAt: row.startedAt,
    helps: helps.filter(({ run }) => row.runs.includes(run) && !rendering.has(run)).map(({ run: _, ...help }) => help),
    tasks: atWork.filter(({ run }) => run !== null && row.runs.includes(run)).map(({ run: _, ...task }) => task),
  }));
}

const shown = {
  id: tasks.id,
  kind: tasks.kind,
  title: tasks.title,
  progress: tasks.progress,
  secondsLeft: tasks.secondsLeft,
  project: projects.name,
  projectId: tasks.projectId,
};

/** What waits, by project and kind: how many, and since when the first. */
export async function listWaiting(): Promise<
  { project: string | null; projectId: string | null; kind: Task['kind']; count: number; sinceSeconds: number }[]
> {
  const rows = await database()
    .select({
      project: projects.name,
      projectId: tasks.projectId,
      kind: tasks.kind,
      count: sql<string>`count(*)`,
      since: sql<string>`extract(epoch from now() - min(${tasks.createdAt}))`,
    })
    .from(tasks)
    .leftJoin(projects, eq(projects.id, tasks.projectId))
    .where(eq(tasks.state, 'queued'))
    .groupBy(projects.name, tasks.projectId, tasks.kind)
    .orderBy(sql`min(${tasks.createdAt})`)
    .limit(200);
  return rows.map(({ count, since, ...row }) => ({ ...row, count: Number(count), sinceSeconds: Number(since) }));
}

/** What failed within a day, the latest first. */
export const listFailed = () =>
  database()
    .select({ ...shown, sentence: tasks.sentence, endedAt: tasks.endedAt })
    .from(tasks)
    .leftJoin(projects, eq(projects.id, tasks.projectId))
    .where(and(eq(tasks.state, 'failed'), eq(tasks.putAway, false), gt(tasks.endedAt, sql`now() - interval '1 day'`)))
    .orderBy(sql`${tasks.endedAt} desc`)
    .limit(100);
