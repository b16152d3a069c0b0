import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { and, asc, desc, eq, inArray, lt, or, sql } from 'drizzle-orm';
import { database } from './db';
import { renders, tasks } from './schema';
import { partsOf, renderPlace, scratchFolder, storage } from './storage';

export type Task = typeof tasks.$inferSelect;

export const findTask = async (id: string): Promise<Task | null> => (await database().select().from(tasks).where(eq(tasks.id, id)))[0] ?? null;

export async function createTask(task: Pick<Task, 'projectId' | 'kind' | 'subject' | 'title'> & { workSeconds: number | null }): Promise<Task> {
  return (await database().insert(tasks).values(task).returning())[0]!;
}

/** Work that is going on or waiting, oldest first, and what failed or ended lately. */
export async function listTasks(projectId: string): Promise<Task[]> {
  const recent = sql`${tasks.endedAt} > now() - interval '1 day'`;
  return database().select().from(tasks)
    .where(and(eq(tasks.projectId, projectId), or(inArray(tasks.state, ['queued', 'running']), recent))).orderBy(asc(tasks.createdAt));
}

export const activeTask = async (kind: Task['kind'], subject: string): Promise<Task | null> =>
  (await database().select().from(tasks).where(and(eq(tasks.kind, kind), eq(tasks.subject, subject), inArray(tasks.state, ['queued', 'running']))))[0] ?? null;

export const lastTask = async (kind: Task['kind'], subject: string): Promise<Task | null> =>
  (await database().select().from(tasks).where(and(eq(tasks.kind, kind), eq(tasks.subject, subject))).orderBy(desc(tasks.createdAt)).limit(1))[0] ?? null;

/** Takes a task for a worker. Null when it was cancelled or ended meanwhile. */
export async function startTask(id: string, workerId: string): Promise<Task | null> {
  const [task] = await database().update(tasks)
    .set({ state: 'running', workerId, heartbeatAt: new Date(), startedAt: new Date(), progress: 0, secondsLeft: null, sentence: null, attempts: sql`${tasks.attempts} + 1` })
    .where(and(eq(tasks.id, id), inArray(tasks.state, ['queued', 'running']), eq(tasks.cancelRequested, false))).returning();
  return task ?? null;
}

/** Writes progress and says whether somebody asked to stop. */
export async function beat(id: string, progress: number, secondsLeft: number | null): Promise<boolean> {
  const [task] = await database().update(tasks).set({ progress, secondsLeft, heartbeatAt: new Date() }).where(eq(tasks.id, id)).returning({ cancel: tasks.cancelRequested });
  return task?.cancel ?? true;
}

export const saySentence = async (id: string, sentence: string): Promise<void> => void (await database().update(tasks).set({ sentence }).where(eq(tasks.id, id)));

export const endTask = (id: string, state: 'done' | 'failed' | 'cancelled', sentence: string | null = null) =>
  database().update(tasks).set({ state, sentence, endedAt: new Date(), secondsLeft: null, ...(state === 'done' ? { progress: 1 } : {}) }).where(eq(tasks.id, id));

/** A waiting task ends at once; a running one when its worker hears of it. */
export async function requestCancel(projectId: string, id: string): Promise<void> {
  const own = and(eq(tasks.id, id), eq(tasks.projectId, projectId));
  await database().update(tasks).set({ cancelRequested: true }).where(own);
  await database().update(tasks).set({ state: 'cancelled', endedAt: new Date() }).where(and(own, eq(tasks.state, 'queued')));
}

/** Running tasks whose worker has not been heard of for `seconds`. */
export const staleTasks = (seconds: number) =>
  database().select().from(tasks).where(and(eq(tasks.state, 'running'), lt(tasks.heartbeatAt, sql`now() - make_interval(secs => ${seconds})`)));

export const requeue = (id: string) => database().update(tasks).set({ state: 'queued', workerId: null, progress: 0, secondsLeft: null }).where(eq(tasks.id, id));

export async function createRender(render: Omit<typeof renders.$inferInsert, 'id' | 'createdAt'>): Promise<string> {
  return (await database().insert(renders).values(render).returning({ id: renders.id }))[0]!.id;
}
export const findRender = async (id: string) => (await database().select().from(renders).where(eq(renders.id, id)))[0] ?? null;
export const setRender = (id: string, values: Partial<typeof renders.$inferInsert>) => database().update(renders).set(values).where(eq(renders.id, id));
/** Forgets a render with its file and what was made of it. */
export async function deleteRender(projectId: string, id: string): Promise<void> {
  const [render] = await database().delete(renders).where(and(eq(renders.id, id), eq(renders.projectId, projectId))).returning();
  if (!render) return;
  if (render.storageKey) await storage().remove(render.storageKey);
  await rm(partsOf(renderPlace(render)), { recursive: true, force: true });
}

/** Between two tries of a render so many days may pass before what is there of it is thrown away. */
const partsDays = 7;
/** Throws away what is left of renders that are finished, gone, or long forgotten. */
export async function sweepParts(): Promise<void> {
  for (const name of await readdir(scratchFolder()).catch(() => [])) {
    const id = /^render-([0-9a-f-]{36})\.\w+\.parts$/.exec(name)?.[1];
    if (!id) continue;
    const folder = join(scratchFolder(), name);
    const render = await findRender(id);
    const age = Date.now() - (await stat(folder)).mtimeMs;
    if (!render || render.storageKey || age > partsDays * 86_400_000) await rm(folder, { recursive: true, force: true });
  }
}
export const listRenders = (projectId: string) =>
  database().select({ render: renders, task: tasks }).from(renders).leftJoin(tasks, eq(tasks.id, renders.taskId)).where(eq(renders.projectId, projectId)).orderBy(desc(renders.createdAt));
