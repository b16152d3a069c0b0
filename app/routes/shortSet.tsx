import { redirect, useOutletContext } from 'react-router';
import type { ProjectData } from '#usecases/projects';
import { changeShorts, showShorts } from '#usecases/shorts';
import { failed, formOf, jsonOf, modelOf, succeeded } from '../server/answer.server';
import { ShortsScreen } from '../shorts/ShortsScreen';
import type { Route } from './+types/shortSet';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showShorts(params.projectId, params.setId));

/** Thumbs, order, rendering. Sent as JSON; forgetting the set also as a form. */
export async function action({ params, request }: Route.ActionArgs) {
  const isJson = request.headers.get('Content-Type')?.includes('json');
  const given = isJson ? await jsonOf(request) : await formOf(request);
  const changed = await changeShorts(params.projectId, params.setId, given);
  if (!changed.ok) return failed(changed);
  return changed.value.gone ? redirect(`/projects/${params.projectId}/shorts`) : succeeded();
}

export default function ShortSet({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  return <ShortsScreen key={loaderData.id} set={loaderData} items={items} projectId={params.projectId} />;
}
