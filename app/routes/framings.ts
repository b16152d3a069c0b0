import { framePieces } from '#usecases/inThreads';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/framings';

/** Frames stretches of footage for a shape, `{width, height, stretches}`; nothing is saved. */
export async function action({ params, request }: Route.ActionArgs) {
  const framed = await framePieces(params.projectId, await jsonOf(request));
  return framed.ok ? succeeded({ framings: framed.value }) : failed(framed);
}
