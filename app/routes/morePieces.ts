import { findMorePieces } from '#usecases/inThreads';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/morePieces';

/** Moments that a reel does not show yet, `{seconds, used}`; nothing is saved. */
export async function action({ params, request }: Route.ActionArgs) {
  const found = await findMorePieces(params.projectId, await jsonOf(request));
  return found.ok ? succeeded(found.value) : failed(found, { pieces: [] });
}
