import { formatClock } from '#core/time';
import { lanesTaken } from '#data/workers';
import { findMedia, keyOf } from '#data/media';
import { isId } from '#data/projects';
import {
  guessOf,
  listTasks,
  paceOfKind,
  putTaskAway,
  requestCancel,
  setFocus,
  subjectOf,
  whatWaits,
  type Ahead,
  type Lane,
  type Paces,
  type Task,
} from '#data/tasks';
import { openProject } from './openProject';
import { done, nothingMore } from './result';
import { laneOf } from './work';

const doing: Partial<Record<Task['kind'], string>> = {
  read: 'is read',
  render: 'is rendered',
  words: 'is heard',
  align: 'is given the times of its text',
  fetch: 'is brought in',
  join: 'is put together',
  post: 'is posted',
};

/** Paces change slowly; screens ask once a second. */
const paceMilliseconds = 20_000;
let paces: { at: number; known: Paces } = { at: 0, known: {} };

async function knownPaces(tasks: readonly Task[]): Promise<Paces> {
  if (!tasks.some(({ state }) => state === 'queued')) return paces.known;
  if (Date.now() - paces.at > paceMilliseconds) {
    const kinds = [...new Set(tasks.map(({ kind }) => kind))];
    const found = await Promise.all(kinds.map(async (kind) => [kind, await paceOfKind(kind)] as const));
    paces = { at: Date.now(), known: { ...paces.known, ...Object.fromEntries(found) } };
  }
  return paces.known;
}

/** What a waiting task waits for and when its turn comes, in words. */
export function waitingSentence({ count, running, seconds }: Ahead, own: string): string {
  if (seconds !== null && seconds >= 1)
    return `${waitsFor({ count, running }, own)}; begins in about ${formatClock(seconds)}`;
  return waitsFor({ count, running }, own);
}

function waitsFor({ count, running }: Pick<Ahead, 'count' | 'running'>, own: string): string {
  if (!running) return count === 0 ? 'waits for a worker' : `waits for a worker; ${count} before it`;
  const where = running.project === null || running.project === own ? '' : ` of “${running.project}”`;
  const others = count - 1 > 0 ? `, and ${count - 1} more before it` : '';
  return `waits until “${running.title}”${where} ${doing[running.kind] ?? 'is done'}${others}`;
}

/** What somebody who looks at a screen cannot change, but whoever runs it can. */
const nobodyTakes = (kind: Task['kind']): string =>
  `waits: no worker is there that ${doers[laneOf(kind)]}. Whoever runs this installation can start one.`;
const doers: Record<Lane, string> = {
  glance: 'reads footage',
  reading: 'reads footage',
  rendering: 'renders',
  words: 'hears words',
  aside: 'does this',
  short: 'does this',
  line: 'fetches and posts',
};

/** The tasks of a project as screens show them. */
export async function listTaskLines(project: { id: string; name: string }) {
  const tasks = await listTasks(project.id);
  const paces = await knownPaces(tasks);
  const ahead = await whatWaits(paces);
  const taken = tasks.some(({ state }) => state === 'queued') ? await lanesTaken() : null;
  return tasks.map(({ id, kind, title, state, progress, secondsLeft, sentence, subject, workSeconds }) => {
    const before = ahead.get(id);
    const takes = guessOf({ kind, workSeconds, progress }, paces);
    return {
      id,
      kind,
      title,
      state,
      progress,
      secondsLeft,
      sentence,
      subject,
      waits: !before ? null : taken?.has(laneOf(kind)) ? waitingSentence(before, project.name) : nobodyTakes(kind),
      /** Seconds until it is over; null while that cannot be told, and when it is over. */
      endsIn: before
        ? before.seconds === null || takes === null
          ? null
          : before.seconds + takes
        : state === 'running'
          ? secondsLeft
          : null,
    };
  });
}

export type TaskLine = Awaited<ReturnType<typeof listTaskLines>>[number];

/** What an editor looks at is read first. @param at item and second, as addresses of screens have them */
async function noteFocus(projectId: string, at: string): Promise<void> {
  const [id = '', second] = at.split('~');
  const seconds = Number(second);
  if (!Number.isFinite(seconds) || seconds < 0) return;
  const item = await findMedia(id);
  if (item?.projectId === projectId) await setFocus('read', subjectOf(keyOf(item)), seconds);
}

/** The running work; the top bar asks for it once a second while something runs. @param at see `noteFocus` */
export async function showTasks(projectId: string, at: string | null = null) {
  const project = await openProject(projectId);
  if (project.ok && at) await noteFocus(projectId, at);
  return project.ok ? done(await listTaskLines(project.value)) : project;
}

/**
 * Asks a task to end, or takes one that is over out of the list; what a task has done stays.
 * @param given `{ cancel }` or `{ putAway }` with the task's id
 */
export async function changeTask(projectId: string, given: Record<string, unknown>) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const { cancel, putAway } = given;
  if (typeof cancel === 'string' && isId(cancel)) await requestCancel(project.value.id, cancel);
  if (typeof putAway === 'string' && isId(putAway)) await putTaskAway(project.value.id, putAway);
  return nothingMore;
}
