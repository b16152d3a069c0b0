import { changeHouseStyle, showHouseStyles } from '#usecases/houseStyles';
import { failed, jsonOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/houseStyles';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showHouseStyles(params.projectId));

export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeHouseStyle(params.projectId, await jsonOf(request));
  return changed.ok ? succeeded(changed.value) : failed(changed, { id: null });
}
