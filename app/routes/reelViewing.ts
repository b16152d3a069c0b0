import { changeReelViewing, showViewing } from '#usecases/viewings';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/reelViewing';

/** How a reel is shown to others, and what they said. */
export const loader = async ({ params }: Route.LoaderArgs) =>
  modelOf(await showViewing(params.projectId, params.reelId));

export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeReelViewing(params.projectId, params.reelId, await formOf(request));
  return changed.ok ? succeeded() : failed(changed);
}
