import { changeSpeakers, showSpeakers } from '#usecases/speakers';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/mediaVoices';

/** Who speaks when in one item. */
export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showSpeakers(params.mediaId));

/** Tells its speakers apart, or corrects what was told, by its `intent`. */
export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeSpeakers(params.mediaId, await formOf(request));
  return changed.ok ? succeeded() : failed(changed);
}
