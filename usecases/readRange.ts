import { formatClock } from '#core/time';
import { adoptRange, isWantedElsewhere, keyOf, setReadingRange, type MediaRow } from '#data/media';
import type { SoundChoice } from '#core/sound';
import { findBestReading, findReading, parseParameters, readingParameters } from '#data/readings';
import { activeTask, requestCancel, subjectOf } from '#data/tasks';
import { enqueueReading, lengthOf } from './queue';

/** A reading of less says nothing about anything. */
const shortestSeconds = 1;

/** What of the sound of an item somebody chose, also while that is being read; null where nobody did. */
const chosenSound = ({ parameters, nextParameters }: Pick<MediaRow, 'parameters' | 'nextParameters'>) =>
  parseParameters(nextParameters ?? parameters).sound;

/**
 * Has another stretch of an item read, or other sound of it. What was read before is shown until the new reading is there.
 * @param from seconds; null for the start of the file
 * @param to seconds; null for its end
 * @param sound what of it is heard; as it was when missing, null for what the machine finds best
 * @returns a sentence when that stretch cannot be read
 */
export async function readRange(
  item: MediaRow,
  from: number | null,
  to: number | null,
  sound: SoundChoice | null = chosenSound(item),
): Promise<string | null> {
  const shown = await findBestReading(keyOf(item));
  const length = shown?.probe.durationSeconds ?? (await lengthOf(item.fileHash));
  if (length === null) return 'How long this file is cannot be told; read the whole of it first.';
  const problem = outside(item.name, length, from ?? 0, to);
  if (problem) return problem;
  const end = to === null || to >= length ? null : to;
  const key = { hash: item.fileHash, parameters: readingParameters(from, end, sound) };

  await endUnwanted(item, shown !== null, key.parameters);
  if (key.parameters !== item.parameters)
    await setReadingRange(item.projectId, item.id, from, end, shown !== null, sound);
  if (await findReading(key)) await adoptRange(key);
  else await enqueueReading(item.projectId, key, item.name);
  return null;
}

/** A sentence when a range does not lie in a file of so many seconds. */
export function outside(name: string, length: number, from: number, to: number | null): string | null {
  const lasts = `“${name}” lasts ${formatClock(length, true)}.`;
  if (from >= length) return `${lasts} The range would begin after its end.`;
  // The clock on screen shows whole seconds: what it rounds up means the end.
  if (to !== null && to > length + 1) return `${lasts} The range would end after that.`;
  if (Math.min(to ?? length, length) - from < shortestSeconds) return 'The range must be at least a second long.';
  return null;
}

/** Readings of stretches of an item that are no longer wanted are ended, unless somebody else waits for them. */
async function endUnwanted(item: MediaRow, isRead: boolean, wanted: string): Promise<void> {
  for (const parameters of new Set([item.nextParameters, isRead ? null : item.parameters])) {
    if (parameters === null || parameters === wanted) continue;
    const key = { hash: item.fileHash, parameters };
    const task = await activeTask('read', subjectOf(key));
    if (task?.projectId === item.projectId && !(await isWantedElsewhere(key, item.id)))
      await requestCancel(item.projectId, task.id);
  }
}
