import { chainsOf, splitPairs } from '#core/time';
import {
  findContinuation,
  recordedFiles,
  saveContinuation,
  unbrokenPairs,
  type PartOfProject,
} from '#data/continuations';
import type { MediaRow } from '#data/media';
import { isChaining, lastTask, queueTask } from '#data/tasks';
import { endingOfWhole } from '#media/outlets/joinParts';
import { ItemsDto } from './forms/dto';
import { done, missing, refused, type Result } from './result';
import { check } from './validate';

/** Files that are parts of one recording, in order. */
export interface SplitRecording {
  ids: string[];
  names: string[];
  durationSeconds: number;
  bytes: number;
  /** Whether it is being put together. */
  isJoining: boolean;
}

/** A file has arrived: whether it goes on in another of its bin, or another in it, is asked where names and times suggest it. */
export async function queueChains({ id, projectId, binId }: MediaRow): Promise<void> {
  const files = (await recordedFiles(projectId)).filter((file) => file.binId === binId);
  for (const pair of splitPairs(files, id)) {
    const [before, after] = [pair.before, pair.after] as [PartOfProject, PartOfProject];
    if ((await findContinuation(before.hash, after.hash)) !== null) continue;
    const subject = `${before.hash} ${after.hash}`;
    await queueTask({ projectId, kind: 'chain', subject, title: `${before.name} and ${after.name}` });
  }
}

/** Recordings of a project that a camera or recorder split; none while it is still being found out where they end. */
export async function splitRecordings(projectId: string): Promise<SplitRecording[]> {
  const pairs = await unbrokenPairs(projectId);
  if (pairs.length === 0 || (await isChaining(projectId))) return [];
  const known = new Map((await recordedFiles(projectId)).map((file) => [file.id, file]));
  return Promise.all(
    chainsOf(pairs).map(async (ids) => {
      const files = ids.map((id) => known.get(id)!);
      const task = await lastTask('join', subjectOfJoin(ids));
      return {
        ids,
        names: files.map(({ name }) => name),
        durationSeconds: files.reduce((sum, file) => sum + file.durationSeconds, 0),
        bytes: files.reduce((sum, file) => sum + file.bytes, 0),
        isJoining: task?.state === 'queued' || task?.state === 'running',
      };
    }),
  );
}

const subjectOfJoin = (ids: readonly string[]): string => ids.join(' ');
/** The items that a task puts together. */
export const idsOfJoin = (subject: string): string[] => subject.split(' ');

/**
 * Makes one file of the parts of a recording, or notes that they are none.
 * @param given `{ ids }` as `splitRecordings` has them, and for the latter `apart`
 */
export async function changeSplit(projectId: string, given: unknown, apart: boolean): Promise<Result<object>> {
  const checked = check(ItemsDto, given);
  if (!checked.ok) return checked;
  const { ids } = checked.value;
  const found = (await splitRecordings(projectId)).find((each) => each.ids.join() === ids.join());
  if (!found) return missing('These files have changed since; look again.', 'ids');
  if (found.isJoining) return refused('They are being put together.', 'ids');
  if (apart) {
    const known = new Map((await recordedFiles(projectId)).map((file) => [file.id, file.hash]));
    for (const [at, id] of ids.slice(1).entries()) await saveContinuation(known.get(ids[at]!)!, known.get(id)!, false);
    return done({});
  }
  await queueTask({ projectId, kind: 'join', subject: subjectOfJoin(ids), title: nameOfWhole(found.names) });
  return done({});
}

/** "CH010012–CH030012.mp4": the first and the last part. */
export function nameOfWhole(names: readonly string[]): string {
  const stem = (name: string) => name.replace(/\.[^.]*$/, '');
  const [first, last] = [stem(names[0]!).split('–')[0], stem(names.at(-1)!).split('–').at(-1)];
  return `${first}–${last}${endingOfWhole(names[0]!)}`;
}
