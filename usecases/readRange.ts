import { formatClock } from '#core/time';
import { adoptRange, isWantedElsewhere, keyOf, setReadingWay, type MediaRow } from '#data/media';
import { findBestReading, findReading, parseParameters, readingParameters, type ReadingWay } from '#data/readings';
import { activeTask, requestCancel, subjectOf } from '#data/tasks';
import { enqueueReading, lengthOf } from './queue';

/** A reading of less says nothing about anything. */
const shortestSeconds = 1;

/**
 * Has an item read in another way than it is, or will be: another stretch of it, other sound, another input look; the rest
 * stays. What was read before is shown until the new reading is there.
 * @returns a sentence when it cannot be read so
 */
export async function readAnew(item: MediaRow, change: Partial<ReadingWay>): Promise<string | null> {
  const way = { ...parseParameters(item.nextParameters ?? item.parameters), ...change };
  const shown = await findBestReading(keyOf(item));
  const length = shown?.probe.durationSeconds ?? (await lengthOf(item.fileHash));
  if (length === null) return 'How long this file is cannot be told; read the whole of it first.';
  if (way.range) {
    const { start, end } = way.range;
    const problem = outside(item.name, length, start, end);
    if (problem) return problem;
    way.range = start === 0 && end >= length ? null : { start, end: end >= length ? Infinity : end };
  }
  const key = { hash: item.fileHash, parameters: readingParameters(way) };

  await endUnwanted(item, shown !== null, key.parameters);
  if (key.parameters !== item.parameters) await setReadingWay(item.projectId, item.id, way, shown !== null);
  if (await findReading(key)) await adoptRange(key);
  else await enqueueReading(item.projectId, key, item.name);
  return null;
}

/** A stretch as forms give it: seconds, null for an end of the file. */
export const rangeFrom = (from: number | null, to: number | null): ReadingWay['range'] =>
  !from && to === null ? null : { start: from ?? 0, end: to ?? Infinity };

/** A sentence when a range does not lie in a file of so many seconds. */
export function outside(name: string, length: number, from: number, to: number): string | null {
  const lasts = `“${name}” lasts ${formatClock(length, true)}.`;
  if (from >= length) return `${lasts} The range would begin after its end.`;
  // The clock on screen shows whole seconds: what it rounds up means the end.
  if (Number.isFinite(to) && to > length + 1) return `${lasts} The range would end after that.`;
  if (Math.min(to, length) - from < shortestSeconds) return 'The range must be at least a second long.';
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
