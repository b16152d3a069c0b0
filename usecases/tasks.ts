import { isId } from '#data/projects';
import { listTasks, requestCancel, whatWaits, type Ahead, type Task } from '#data/tasks';
import { openProject } from './openProject';
import { done, nothingMore } from './result';

const doing: Partial<Record<Task['kind'], string>> = {
  read: 'is read',
  render: 'is rendered',
  words: 'is heard',
  fetch: 'is brought in',
  post: 'is posted',
};

/** What a waiting task waits for, in words. */
export function waitingSentence({ count, running }: Ahead, own: string): string {
  if (!running) return count === 0 ? 'waits for a worker' : `waits for a worker; ${count} before it`;
  const where = running.project === null || running.project === own ? '' : ` of “${running.project}”`;
  const others = count - 1 > 0 ? `, and ${count - 1} more before it` : '';
  return `waits until “${running.title}”${where} ${doing[running.kind] ?? 'is done'}${others}`;
}

/** The tasks of a project as screens show them. */
export async function listTaskLines(project: { id: string; name: string }) {
  const [tasks, ahead] = await Promise.all([listTasks(project.id), whatWaits()]);
  return tasks.map(({ id, kind, title, state, progress, secondsLeft, sentence, subject }) => {
    const before = ahead.get(id);
    return {
      id,
      kind,
      title,
      state,
      progress,
      secondsLeft,
      sentence,
      subject,
      waits: before ? waitingSentence(before, project.name) : null,
    };
  });
}

export type TaskLine = Awaited<ReturnType<typeof listTaskLines>>[number];

/** The running work; the top bar asks for it once a second while something runs. */
export async function showTasks(projectId: string) {
  const project = await openProject(projectId);
  return project.ok ? done(await listTaskLines(project.value)) : project;
}

/** Asks a task to end; what it has done so far is kept. */
export async function cancelTask(projectId: string, taskId: unknown) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  if (typeof taskId === 'string' && isId(taskId)) await requestCancel(project.value.id, taskId);
  return nothingMore;
}
