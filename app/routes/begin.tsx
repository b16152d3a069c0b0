import { redirect, useOutletContext } from 'react-router';
import { showBeginning, type Beginning } from '#usecases/beginnings';
import { begin } from '#usecases/inThreads';
import type { ProjectData } from '#usecases/projects';
import { BeginScreen } from '../begin/BeginScreen';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/begin';

const placeOf = (projectId: string, made: NonNullable<Beginning['made']>) =>
  `/projects/${projectId}/${'reel' in made ? `reels/${made.reel}` : 'shorts' in made ? `shorts/${made.shorts}` : `music/${made.music}`}`;

/** What was made once is shown, instead of being made again. */
export async function loader({ params }: Route.LoaderArgs) {
  const { made, ...beginning } = modelOf(await showBeginning(params.projectId));
  if (made) throw redirect(placeOf(params.projectId, made));
  return beginning;
}

export async function action({ params, request }: Route.ActionArgs) {
  const begun = await begin(params.projectId, await formOf(request));
  if (!begun.ok) return failed(begun);
  const { made } = begun.value;
  return succeeded({ goTo: made && placeOf(params.projectId, made) });
}

export default function Begin({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  return <BeginScreen projectId={params.projectId} items={items} beginning={loaderData} />;
}
