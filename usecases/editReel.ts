import { applyCommand } from '#core/reel';
import { loadRevision, saveRevision, stepRevision } from '#data/reels';
import { checkCommand } from './checkCommand';
import { ReelEditDto } from './forms/reelDto';
import { openReelOf, type OpenReel } from './openReel';
import { conflict, done, refused, type Conflict, type Result } from './result';
import { sourcesOf } from './sources';
import { check } from './validate';

/** The reel after the edit; a refused edit leaves it as it is, a conflict gives it as somebody else made it. */
export type EditAnswer = Result<OpenReel> | Conflict<OpenReel>;

/**
 * One edit of a reel on the version that the sender knows: a command, a step back or forth, or a way back to an earlier
 * version. An edit that comes twice, because its answer was lost on its way or two windows sent what was left over, is
 * known by its id and done once.
 */
export async function editReel(projectId: string, reelId: string, given: unknown): Promise<EditAnswer> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const reel = opened.value;
  const checked = check(ReelEditDto, given);
  if (!checked.ok) return checked;
  const edit = checked.value;
  const now = () => openReelOf(projectId, reelId);
  if (isKnown(reel, edit)) return done(reel);
  if (edit.head !== reel.head) return changedElsewhere(reel);
  if (edit.step) {
    if (await stepRevision(reel.id, edit.step, edit.id)) return now();
    return refused(edit.step === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.');
  }
  const wanted = checkCommand(edit.command);
  if (!wanted.ok) return wanted;
  const command = wanted.value;
  const earlier = command.type === 'restore' ? await loadRevision(reel.id, command.version) : null;
  const result = applyCommand(reel.document, command, await sourcesOf(projectId), earlier?.document);
  if (!result.ok) return refused(result.reason);
  if (await saveRevision(reel.id, edit.head, result.reel, command, edit.id)) return now();
  const stood = await now();
  if (!stood.ok) return stood;
  return isKnown(stood.value, edit) ? stood : changedElsewhere(stood.value);
}

const isKnown = (reel: OpenReel, { id }: ReelEditDto): boolean => id !== undefined && reel.lastEdit === id;

const changedElsewhere = (reel: OpenReel): Conflict<OpenReel> =>
  conflict('This reel was changed in another window. It is shown anew; please do that again.', reel);
