import { showCamera } from '#usecases/readings';
import { plainAnswer } from '../server/answer.server';
import type { Route } from './+types/mediaCamera';

/** Steps of the path that are given at once: an hour at ten a second. */
const mostSteps = 36_000;

/** How the camera moved in a stretch of an item (`from`, `to` in seconds), for showing it steadied; five rows of numbers; null as long as that was not read. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const camera = await showCamera(params.mediaId);
  if (!camera.ok) return plainAnswer(camera);
  const path = camera.value;
  // The first look at a file does not follow the camera; its reel is there already.
  if (!path) return Response.json(null, { headers: { 'Cache-Control': 'no-store' } });
  const query = new URL(request.url).searchParams;
  const first = Math.max(0, Math.round(Number(query.get('from') ?? 0) * path.hz) || 0);
  const last = Math.min(
    path.dx.length,
    Math.round(Number(query.get('to') ?? Infinity) * path.hz) || path.dx.length,
    first + mostSteps,
  );
  const cut = (values: Float32Array) =>
    Array.from(values.subarray(first, last), (value) => Number(value.toPrecision(6)));
  return Response.json(
    {
      hz: path.hz,
      start: first / path.hz,
      dx: cut(path.dx),
      dy: cut(path.dy),
      rotation: cut(path.rotation),
      zoom: cut(path.zoom),
      confidence: cut(path.confidence),
    },
    { headers: { 'Cache-Control': 'private, max-age=60' } },
  );
}
