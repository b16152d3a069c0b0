import { clipsOf } from '#core/reel';
import { findFile, findMedia } from '#data/media';
import { loadRevision } from '#data/reels';
import { isInBucket, storage } from '#data/storage';
import { findRender, findTask, keyOfSubject, soonAfter, swapTurns, type Task } from '#data/tasks';

/** What is at hand for at least so much of its bytes is begun at once. */
const enough = 0.5;

/**
 * Of the task whose job a worker has just taken, and those that come soon after, the one to be done now: where footage lies
 * in a bucket, one that has it in the cache of this machine goes before one that has to fetch it.
 * @returns the task whose turn it is, and its kind when it is another
 */
export async function nearestTask(taskId: string): Promise<{ id: string; kind: Task['kind'] | null }> {
  const usual = { id: taskId, kind: null };
  if (!isInBucket()) return usual;
  const own = await findTask(taskId);
  if (!own || own.state !== 'queued' || (await nearShare(own)) >= enough) return usual;
  for (const other of await soonAfter(own))
    if ((await nearShare(other)) >= enough && (await swapTurns(own, other))) return { id: other.id, kind: other.kind };
  return usual;
}

/** How much of the footage of a task is at hand, from 0 to 1; all of it where it needs none. */
async function nearShare(task: Task): Promise<number> {
  let all = 0;
  let near = 0;
  for (const hash of await contentsOf(task)) {
    const file = await findFile(hash);
    if (!file) continue;
    all += file.size;
    if (await storage().isNear(file.storageKey)) near += file.size;
  }
  return all === 0 ? 1 : near / all;
}

/** The contents that a task reads. */
async function contentsOf({ kind, subject }: Task): Promise<readonly string[]> {
  if (kind === 'read' || kind === 'glance' || kind === 'words') return [keyOfSubject(subject).hash];
  if (kind === 'hear') return [subject];
  if (kind === 'align' || kind === 'voices') return [(await findMedia(subject.split(' ')[0]!))?.fileHash ?? ''];
  if (kind !== 'render') return [];
  const render = await findRender(subject);
  const revision = render && (await loadRevision(render.reelId, render.revision));
  if (!revision) return [];
  const media = new Set(clipsOf(revision.document).map((clip) => clip.media));
  const rows = await Promise.all([...media].map((id) => findMedia(id)));
  return [...new Set(rows.flatMap((row) => row?.fileHash ?? []))];
}
