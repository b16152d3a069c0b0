import type { RecordingOffset } from '#core/sound';
import { findMatch } from '#data/matches';
import { listMedia } from '#data/media';
import { lastTask } from '#data/tasks';
import { MatchDto } from './forms/reelDto';
import { openProject } from './openProject';
import { enqueueMatch } from './queue';
import { done, missing, refused, type Result } from './result';
import { check } from './validate';

/** Where one recording lies in another; null while it is being found out. */
export type MatchAnswer = RecordingOffset | null;

/** Where the sound of one item lies in that of another; asked for again and again until it is known. */
export async function matchSound(
  projectId: string,
  given: { reference?: string; other?: string; again?: string },
): Promise<Result<MatchAnswer>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(MatchDto, given);
  if (!checked.ok) return checked;
  const items = new Map((await listMedia(projectId)).map((item) => [item.id, item]));
  const [reference, other] = [items.get(checked.value.reference), items.get(checked.value.other)];
  if (!reference || !other) return missing('One of the two is not in this project any more.');
  const silent = [reference, other].find((item) => !item.probe?.hasSound);
  if (silent) return refused(`“${silent.name}” has no sound that could be compared.`);
  const match = await findMatch(reference.hash, other.hash);
  if (match) return done(match);
  const last = await lastTask('match', `${reference.hash} ${other.hash}`);
  // A comparison that failed is tried again when somebody asks anew.
  if (last?.state === 'failed' && given.again === undefined)
    return refused(last.sentence ?? 'The sounds could not be compared.');
  await enqueueMatch(projectId, reference.hash, other.hash, other.name);
  return done(null);
}
