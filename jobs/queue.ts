import { makeWorkerUtils, type WorkerUtils } from 'graphile-worker';
import { database } from '#data/db';
import type { ReadingKey } from '#data/readings';
import { activeTask, createTask, type Task } from '#data/tasks';

/** Putting work into the queue; the worker takes it out. The web application imports this file and no other of this room. */
let utils: Promise<WorkerUtils> | null = null;
const queue = () => (utils ??= makeWorkerUtils({ pgPool: database().$client }));

export async function migrateQueue(): Promise<void> {
  await (await queue()).migrate();
}

/** Lower goes first: somebody waits for a render, words come after everything. */
const priorities: Record<Task['kind'], number> = { render: -10, read: 0, words: 10 };

async function enqueue(task: Task): Promise<void> {
  await (await queue()).addJob(task.kind, { taskId: task.id }, { jobKey: task.id, maxAttempts: 4, priority: priorities[task.kind] });
}

/** A task names what it reads as "HASH PARAMETERS". */
export const subjectOf = ({ hash, parameters }: ReadingKey): string => `${hash} ${parameters}`.trim();
export function keyOfSubject(subject: string): ReadingKey {
  const [hash, parameters = ''] = subject.split(' ');
  return { hash: hash!, parameters };
}

/** Asks for a file to be read, once: a reading that waits or runs already is given back. */
export async function enqueueReading(projectId: string, key: ReadingKey, title: string, workSeconds: number | null = null): Promise<Task> {
  const active = await activeTask('read', subjectOf(key));
  if (active) return active;
  const task = await createTask({ projectId, kind: 'read', subject: subjectOf(key), title, workSeconds });
  await enqueue(task);
  return task;
}

/** Asks for the words of a file, after everything else. */
export async function enqueueWords(projectId: string, key: ReadingKey, title: string): Promise<Task> {
  const active = await activeTask('words', subjectOf(key));
  if (active) return active;
  const task = await createTask({ projectId, kind: 'words', subject: subjectOf(key), title, workSeconds: null });
  await enqueue(task);
  return task;
}

export async function enqueueRender(projectId: string, renderId: string, title: string, workSeconds: number): Promise<Task> {
  const task = await createTask({ projectId, kind: 'render', subject: renderId, title, workSeconds });
  await enqueue(task);
  return task;
}

/** Puts a task back that lost its worker. */
export async function enqueueAgain(task: Task): Promise<void> {
  await (await queue()).addJob(task.kind, { taskId: task.id }, { jobKey: task.id, maxAttempts: 4, priority: priorities[task.kind] });
}
