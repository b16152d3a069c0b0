import { findFile } from '#data/media';
import { findHearing, saveHearing } from '#data/montages';
import { storage } from '#data/storage';
import { hearMusicIn } from '#media/read/hearMusic';
import { MediaError } from '#media/process';
import type { Work } from './runTask';

/** Finds the beats of a piece of music; the subject is its content. */
export async function hearBeats({ task, signal }: Work): Promise<string | null> {
  if (await findHearing(task.subject)) return null;
  const file = await findFile(task.subject);
  if (!file || (await storage().size(file.storageKey)) === null)
    throw new MediaError('The music is not in the store any more. Bring it in again.');
  await saveHearing(task.subject, await hearMusicIn(await storage().localPath(file.storageKey), signal));
  return null;
}
