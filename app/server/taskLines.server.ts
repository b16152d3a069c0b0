import { listTasks, whatWaits, type Ahead, type Task } from '#data/tasks';

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
export async function taskLines(project: { id: string; name: string }) {
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
