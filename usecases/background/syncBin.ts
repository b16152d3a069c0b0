import { findFile, listMedia, setSyncOffsets } from '#data/media';
import { storage } from '#data/storage';
import { offsetBetween } from '#media/read/offset';
import { MediaError } from '#media/process';
import type { Work } from './runTask';

/** Under this the answer is a guess, see `RecordingOffset`. */
const sureFrom = 0.3;

/** Finds where each recording of a bin lies on a common clock, by their sound; the longest one with sound is the reference. */
export async function syncBin({ task, signal, progress }: Work): Promise<string | null> {
  const own = (await listMedia(task.projectId!)).filter(
    (item) => item.binId === task.subject && item.probe && item.probe.kind !== 'photo' && item.probe.hasSound,
  );
  const [reference, ...others] = own.sort((a, b) => b.probe!.durationSeconds - a.probe!.durationSeconds);
  if (!reference || others.length === 0)
    throw new MediaError('Two recordings with sound are needed to find how they lie to one another.');
  const pathOf = async (hash: string) => {
    const file = await findFile(hash);
    if (!file) throw new MediaError('A file is not in the store any more. Bring it in again.');
    return storage().localPath(file.storageKey);
  };
  const offsets = new Map([[reference.id, 0]]);
  const unsure: string[] = [];
  for (const [index, other] of others.entries()) {
    const { offsetSeconds, confidence } = await offsetBetween(
      await pathOf(reference.hash),
      await pathOf(other.hash),
      signal,
    );
    if (confidence >= sureFrom) offsets.set(other.id, offsetSeconds);
    else unsure.push(other.name);
    progress((index + 1) / others.length);
  }
  await setSyncOffsets(task.projectId!, offsets);
  return unsure.length
    ? `${unsure.join(', ')}: the sound does not match that of ${reference.name}; taken to begin with it.`
    : null;
}
