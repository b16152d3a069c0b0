import { data } from 'react-router';
import { changeMontage, type MontageChange } from '#usecases/montages';
import { failed, jsonOf } from '../server/answer.server';
import type { Route } from './+types/montageSave';

/** A montage on the version that the sender knows, `{value, version}`; with `makeReel` a reel is made of what is saved. */
export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeMontage(
    params.projectId,
    params.mediaId,
    (await jsonOf(request)) as MontageChange | null,
  );
  if (changed.ok) return 'reel' in changed.value ? changed.value : { saved: true, ...changed.value };
  return 'now' in changed ? data(changed.now, { status: 409 }) : failed(changed);
}
