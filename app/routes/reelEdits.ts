import { editReel } from '#usecases/editReel';
import { openReelOf } from '#usecases/openReel';
import { failed, jsonOf, modelOf } from '../server/answer.server';
import type { Route } from './+types/reelEdits';

/** The reel as it stands now. */
export const loader = async ({ params }: Route.LoaderArgs) => ({
  reel: modelOf(await openReelOf(params.projectId, params.reelId)),
});

/**
 * One edit on the version that the sender knows. Answers with the reel as it stands then; 409 with the reel when
 * somebody else changed the same, 422 with a sentence when the edit does not fit.
 */
export async function action({ params, request }: Route.ActionArgs) {
  const edited = await editReel(params.projectId, params.reelId, await jsonOf(request));
  if (edited.ok) return { ...edited.value, problem: null };
  if ('now' in edited) return failed(edited, { reel: edited.now });
  return failed(edited, { reel: modelOf(await openReelOf(params.projectId, params.reelId)) });
}
