import { useOutletContext } from 'react-router';
import type { ProjectData } from '#usecases/projects';
import { makeVariants } from '#usecases/inThreads';
import { showVariants } from '#usecases/variants';
import { failed, jsonOf, modelOf, succeeded } from '../server/answer.server';
import { VariantsScreen } from '../variants/VariantsScreen';
import type { Route } from './+types/variants';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showVariants(params.projectId));

/** Makes a reel of every combination that is ticked, and renders them if that is wished. */
export async function action({ params, request }: Route.ActionArgs) {
  const made = await makeVariants(params.projectId, await jsonOf(request));
  if (!made.ok) return failed(made);
  return succeeded({ goTo: `/projects/${params.projectId}/${made.value.rendered ? 'outputs' : 'reels'}` });
}

export default function Variants({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  return <VariantsScreen projectId={params.projectId} data={loaderData} items={items} />;
}
