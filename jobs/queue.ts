import { makeWorkerUtils, type WorkerUtils } from 'graphile-worker';
import { database } from '#data/db';
import { activeTask, createTask, type Task } from '#data/tasks';

/** Putting work into the queue; the worker takes it out. The web application imports this file and no other of this room. */
let utils: Promise<WorkerUtils> | null = null;
const queue = () => (utils ??= makeWorkerUtils({ pgPool: database().$client }));

export async function migrateQueue(): Promise<void> {
  await (await queue()).migrate();
}

async function enqueue(task: Task): Promise<void> {
  await (await queue()).addJob(task.kind, { taskId: task.id }, { jobKey: task.id, maxAttempts: 4 });
}

/** Asks for a file to be read, once: a reading that waits or runs already is given back. */
export async function enqueueReading(projectId: string, hash: string, title: string, workSeconds: number | null = null): Promise<Task> {
  const active = await activeTask('read', hash);
  if (active) return active;
  const task = await createTask({ projectId, kind: 'read', subject: hash, title, workSeconds });
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
  await (await queue()).addJob(task.kind, { taskId: task.id }, { jobKey: task.id, maxAttempts: 4 });
}
