import { data } from 'react-router';
import { applyCommand, type ReelCommand } from '#core/reel';
import { loadRevision, saveRevision, stepRevision, type OpenReel } from '#data/reels';
import { ReelEditDto } from '../forms/reelDto';
import { checkCommand } from '../server/checkCommand.server';
import { requireReel, sourcesOf } from '../server/reel.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/reelEdits';

/** The reel as it stands now. */
export async function loader({ params }: Route.LoaderArgs) {
  return { reel: await requireReel(params.projectId, params.reelId) };
}

/**
 * One edit on the version that the sender knows. Answers with the reel as it stands then; 409 with the reel when
 * somebody else was quicker, 422 with a sentence when the edit does not fit.
 */
export async function action({ params, request }: Route.ActionArgs) {
  const reel = await requireReel(params.projectId, params.reelId);
  const refuse = (problem: string) => data({ reel, problem }, { status: 422 });
  const checked = check(ReelEditDto, await request.json().catch(() => null));
  if (!checked.ok) return refuse(Object.values(checked.problems)[0]!);
  const { id, head, step, restore } = checked.value;
  const now = () => requireReel(params.projectId, params.reelId);
  // The answer to this edit was lost on its way, or two windows sent what was left over.
  const known = (stood: OpenReel) => id !== undefined && stood.lastEdit === id;
  const conflict = async () => {
    const stood = await now();
    if (known(stood)) return { reel: stood, problem: null };
    return data(
      { reel: stood, problem: 'This reel was changed in another window. It is shown anew; please do that again.' },
      { status: 409 },
    );
  };
  if (known(reel)) return { reel, problem: null };
  if (head !== reel.head) return conflict();
  if (step) {
    if (await stepRevision(reel.id, step, id)) return { reel: await now(), problem: null };
    return refuse(step === 'undo' ? 'There is nothing to take back.' : 'There is nothing to do again.');
  }
  let command: ReelCommand;
  let stored: ReelCommand;
  if (restore !== undefined) {
    const revision = await loadRevision(reel.id, restore);
    if (!revision) return refuse('This version does not exist any more.');
    // The history need not hold the whole reel twice.
    command = { type: 'restore', reel: revision.document, name: 'went back to an earlier version' };
    stored = { type: 'several', name: command.name, commands: [] };
  } else {
    const edit = checkCommand(checked.value.command);
    if (!edit.ok) return refuse(edit.problem);
    command = stored = edit.command;
  }
  const result = applyCommand(reel.document, command, await sourcesOf(reel.projectId));
  if (!result.ok) return refuse(result.reason);
  return (await saveRevision(reel.id, head, result.reel, stored, id))
    ? { reel: await now(), problem: null }
    : conflict();
}
