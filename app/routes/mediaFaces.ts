import { showFaces } from '#usecases/readings';
import { plainAnswer } from '../server/answer.server';
import type { Route } from './+types/mediaFaces';

/** Boxes of faces in shares of the picture. */
export async function loader({ params }: Route.LoaderArgs) {
  const faces = await showFaces(params.mediaId);
  if (!faces.ok) return plainAnswer(faces);
  return Response.json(faces.value.map(({ x, y, width, height }) => ({ x, y, width, height })));
}
