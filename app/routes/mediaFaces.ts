import { readerVersion } from '#core/readings';
import { findMedia, keyOf } from '#data/media';
import { findBestReading } from '#data/readings';
import type { Route } from './+types/mediaFaces';

/** Boxes of the faces in a photo, in shares of its width and height. */
export async function loader({ params }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const reading = row && (await findBestReading(keyOf(row), readerVersion));
  if (!reading) return new Response('This item was not read yet.', { status: 404 });
  return Response.json((reading.faces[0]?.boxes ?? []).map(({ x, y, width, height }) => ({ x, y, width, height })));
}
