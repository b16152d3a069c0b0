import { changeTaste, showTastes } from '#usecases/tastes';
import { failed, jsonOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/tastes';

export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showTastes(params.projectId, new URL(request.url).searchParams.get('taste')));

export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeTaste(params.projectId, await jsonOf(request));
  return changed.ok ? succeeded(changed.value) : failed(changed, { id: null });
}
