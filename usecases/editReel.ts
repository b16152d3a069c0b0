import { loadRevision, revisionAfter, revisionOfEdit, saveRevision, stepRevision } from '#data/reels';
import { checkCommand } from './checkCommand';
import { decideEdit, type ReelPast } from './decideEdit';
import { ReelEditDto } from './forms/reelDto';
import { openReelOf, type OpenReel } from './openReel';
import { conflict, done, refused, type Conflict, type Result } from './result';
import { sourcesOf } from './sources';
import { check } from './validate';

/** The reel after the edit, and whether somebody else had changed it as well. */
interface EditedReel {
  reel: OpenReel;
  isMerged: boolean;
}
/** A refused edit leaves the reel as it is, a conflict gives it as somebody else made it. */
export type EditAnswer = Result<EditedReel> | Conflict<OpenReel>;

/** So often somebody else may be quicker before one is told so. */
const mostTries = 6;

/**
 * One edit of a reel on the version that the sender knows: a command, a step back or forth, or a way back to an earlier
 * version. What somebody else did since stays, and where both changed the same it is a conflict (see `decideEdit`). An
 * edit that comes twice, because its answer was lost on its way or two windows sent what was left over, is known by its
 * id and done once.
 */
export async function editReel(projectId: string, reelId: string, given: unknown): Promise<EditAnswer> {
  const checked = check(ReelEditDto, given);
  const command = checked.ok && checked.value.step === undefined ? checkCommand(checked.value.command) : null;
  for (let tries = 0; ; tries++) {
    const opened = await openReelOf(projectId, reelId);
    if (!opened.ok) return opened;
    if (!checked.ok) return checked;
    if (command && !command.ok) return command;
    const answer = await attempt(opened.value, { ...checked.value, command: command?.value ?? null });
    if (answer !== 'moved') return answer;
    if (tries === mostTries)
      return conflict('This reel is being changed in other windows all the time. Please do that again.', opened.value);
  }
}

const pastOf = (reelId: string): ReelPast => ({
  revision: (number) => loadRevision(reelId, number),
  ofEdit: (edit) => revisionOfEdit(reelId, edit),
  next: (number) => revisionAfter(reelId, number),
});

/** @returns 'moved' when somebody was quicker */
async function attempt(reel: OpenReel, edit: Parameters<typeof decideEdit>[1]): Promise<EditAnswer | 'moved'> {
  const decision = await decideEdit(reel, edit, pastOf(reel.id), await sourcesOf(reel.projectId));
  switch (decision.what) {
    case 'known':
      return done({ reel, isMerged: decision.isMerged });
    case 'refuse':
      return refused(decision.why);
    case 'clash':
      return conflict(decision.why, reel);
    case 'step':
      return (await stepRevision(reel.id, reel.head, decision.step, edit.id)) ? answered(reel, false) : 'moved';
    case 'save': {
      const { document, command, isMerged } = decision;
      return (await saveRevision(reel.id, reel.head, document, command, edit.id)) ? answered(reel, isMerged) : 'moved';
    }
  }
}

async function answered({ projectId, id }: OpenReel, isMerged: boolean): Promise<EditAnswer> {
  const now = await openReelOf(projectId, id);
  return now.ok ? done({ reel: now.value, isMerged }) : now;
}
