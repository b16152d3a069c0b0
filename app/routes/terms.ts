import { changeTerms, showTerms } from '#usecases/inThreads';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/terms';

/** Names and terms of a project, and what its texts suggest. */
export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showTerms(params.projectId));

export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeTerms(params.projectId, await formOf(request));
  return changed.ok ? succeeded<{ again: number | null }>(changed.value) : failed(changed, { again: null });
}
