import { mkdir, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { bringIn } from '#data/bringIn';
import { saveWhole } from '#data/continuations';
import {
  findFile,
  findMedia,
  isWantedElsewhere,
  keyOf,
  placeLike,
  takeOut,
  whatHangsOn,
  type MediaRow,
} from '#data/media';
import { activeTask, requestCancel, subjectOf } from '#data/tasks';
import { scratchFolder, storage } from '#data/storage';
import { joinParts } from '#media/outlets/joinParts';
import { MediaError } from '#media/process';
import { queueArrival } from '../queue';
import { idsOfJoin } from '../splitRecordings';
import type { Work } from './runTask';

/** What nobody waits for any more is not read before the whole. */
async function endReading(part: MediaRow): Promise<void> {
  const key = keyOf(part);
  const task = await activeTask('read', subjectOf(key));
  if (task?.projectId === part.projectId && !(await isWantedElsewhere(key, part.id)))
    await requestCancel(part.projectId, task.id);
}

/** Makes one file of the parts of a recording; those on which nothing hangs leave the project, and can be brought back. */
export async function joinRecording({ task, signal, progress }: Work): Promise<string | null> {
  const projectId = task.projectId!;
  const rows = await Promise.all(idsOfJoin(task.subject).map((id) => findMedia(id)));
  const parts = rows.filter((row) => row?.projectId === projectId).map((row) => row!);
  const files = await Promise.all(parts.map((part) => findFile(part.fileHash)));
  if (parts.length !== rows.length || files.some((file) => file === null))
    throw new MediaError('Some of these files are not in the project any more; nothing was changed.');
  const paths = await Promise.all(files.map((file) => storage().localPath(file!.storageKey)));
  const output = join(scratchFolder(), `join-${task.id}${extname(task.title)}`);
  await mkdir(scratchFolder(), { recursive: true });
  try {
    await joinParts(paths, output, { signal, onProgress: progress });
    const whole = await bringIn(projectId, output, task.title, { binId: parts[0]!.binId });
    await saveWhole(
      parts.map((part) => part.fileHash),
      whole.fileHash,
    );
    await placeLike(whole.id, parts[0]!.id);
    await queueArrival((await findMedia(whole.id)) ?? whole);
    const stay: string[] = [];
    for (const part of parts) {
      const { reels, ...counts } = await whatHangsOn(projectId, [part.id]);
      if (reels.length || Object.values(counts).some((count) => count > 0)) stay.push(part.name);
      else {
        await takeOut(projectId, [part.id]);
        await endReading(part);
      }
    }
    if (stay.length === 0) return 'Its parts were taken out; they can be brought back.';
    return `Stay, because something hangs on them: ${stay.join(', ')}.`;
  } finally {
    await rm(output, { force: true });
  }
}
