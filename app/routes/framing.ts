import { showSubjects } from '#usecases/framing';
import { framePiece } from '#usecases/inThreads';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/framing';

/** What is in the picture at a time (`at`, in seconds), for choosing one to follow. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const seconds = Number(new URL(request.url).searchParams.get('at') ?? 0);
  return Response.json(await showSubjects(params.mediaId, seconds));
}

/** Frames a stretch of an item for a shape; nothing is saved. */
export async function action({ params, request }: Route.ActionArgs) {
  const framed = await framePiece(params.mediaId, await jsonOf(request));
  return framed.ok ? succeeded({ framing: framed.value }) : failed(framed);
}
