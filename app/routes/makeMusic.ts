import { makeMusicOf } from '#usecases/makeMusic';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/makeMusic';

/** Asks for a piece of music out of others: `{ parts, seconds }`. */
export async function action({ params, request }: Route.ActionArgs) {
  const made = await makeMusicOf(params.projectId, await jsonOf(request));
  return made.ok ? succeeded(made.value) : failed(made, { title: null });
}
