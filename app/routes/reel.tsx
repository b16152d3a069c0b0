import { changeWholeReel, showReel } from '#usecases/reels';
import { ReelScreen } from '../reel/place/ReelScreen';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/reel';

/** The reel, and another one, or an earlier version ("REEL@NUMBER"), above it when the address asks for one (`with`). */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showReel(params.projectId, params.reelId, new URL(request.url).searchParams.get('with')));

export async function action({ params, request }: Route.ActionArgs) {
  const { projectId, reelId } = params;
  const changed = await changeWholeReel(projectId, reelId, await formOf(request));
  if (!changed.ok) return failed(changed);
  const { made } = changed.value;
  return succeeded({ goTo: made ? `/projects/${projectId}/reels/${made}` : null });
}

export default function ReelPlace({ loaderData, params }: Route.ComponentProps) {
  return <ReelScreen projectId={params.projectId} data={loaderData} />;
}
