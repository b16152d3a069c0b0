import { changePreset, showPresets } from '#usecases/presets';
import { failed, jsonOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/presets';

export const loader = async () => modelOf(await showPresets());

export async function action({ request }: Route.ActionArgs) {
  const changed = await changePreset(await jsonOf(request));
  return changed.ok ? succeeded(changed.value) : failed(changed, { id: null });
}
