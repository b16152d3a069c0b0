import { findMatch, saveMatch } from '#data/matches';
import { findFile } from '#data/media';
import { storage } from '#data/storage';
import { offsetBetween } from '#media/read/offset';
import { MediaError } from '#media/process';
import type { Work } from './runTask';

/** Finds where one recording lies in another by their sound; the subject is "REFERENCE OTHER", by content. */
export async function matchSound({ task, signal }: Work): Promise<string | null> {
  const [reference, other] = task.subject.split(' ') as [string, string];
  if (await findMatch(reference, other)) return null;
  const paths = [];
  for (const hash of [reference, other]) {
    const file = await findFile(hash);
    if (!file || (await storage().size(file.storageKey)) === null)
      throw new MediaError('A file is not in the store any more. Bring it in again.');
    paths.push(await storage().localPath(file.storageKey));
  }
  await saveMatch(reference, other, await offsetBetween(paths[0]!, paths[1]!, signal));
  return null;
}
