import { IsIn } from 'class-validator';
import {
  forgetBins,
  forgetProjects,
  forgetTakenOut,
  graceDays,
  measureStore,
  roomOfProjects,
  sweepStore,
  sweepUploads,
  type Freeable,
} from '#data/collect';
import { forgetOldStretches } from '#data/renderStretches';
import { forgetDeadJobs } from '#data/tasks';
import { freeBytes, reserveBytes } from '#data/room';
import { done, type Result, type ValueOf } from './result';
import { check } from './validate';

/** What takes how much room, what could be freed, and how much is left. */
export async function showStorage() {
  const [{ used, freeable }, projects, free] = await Promise.all([measureStore(), roomOfProjects(), freeBytes()]);
  return done({ used, freeable, projects, free, reserve: reserveBytes(), graceDays });
}
export type StorageData = ValueOf<typeof showStorage>;
export type FreeableKind = keyof Freeable;

class FreeDto {
  @IsIn(['projects', 'takenOut', 'uploads', 'unreferred'], { message: 'There is nothing of the kind to free.' })
  kind!: FreeableKind;
}

/** Frees what somebody asks for, without waiting until its time is over. @returns bytes that are free now and were not before */
export async function freeRoom(given: unknown): Promise<Result<number>> {
  const checked = check(FreeDto, given);
  if (!checked.ok) return checked;
  const { kind } = checked.value;
  const before = await freeBytes();
  if (kind === 'projects') await forgetProjects(0);
  if (kind === 'takenOut') await forgetTakenOut(0);
  if (kind === 'uploads') await sweepUploads(0);
  await sweepStore();
  return done(Math.max(0, (await freeBytes()) - before));
}

/** Deletes what nobody can want any more: what was deleted long ago, and what nothing refers to. */
export async function collectGarbage(): Promise<void> {
  await forgetProjects(graceDays.deleted);
  await forgetTakenOut(graceDays.deleted);
  await forgetBins(graceDays.deleted);
  await sweepUploads(graceDays.uploads);
  await forgetDeadJobs(1);
  await forgetOldStretches(graceDays.uploads);
  await sweepStore();
}
