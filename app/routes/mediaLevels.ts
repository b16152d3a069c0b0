import { readerVersion } from '#core/readings';
import { findMedia, keyOf } from '#data/media';
import { loadTrace } from '#data/readings';
import type { Route } from './+types/mediaLevels';

/** The sound level of an item in dBFS as float32, 50 a second; for finding silences while a threshold moves. */
export async function loader({ params }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  if (!row) return new Response('This item is not in the project any more.', { status: 404 });
  const trace = await loadTrace(keyOf(row), readerVersion, 'sound.level');
  // No sound, or not read yet: nothing to say, and no fault.
  if (!trace) return new Response(null, { status: 204 });
  return new Response(new Uint8Array(trace.values.buffer as ArrayBuffer), {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Cache-Control': 'private, no-cache, no-transform',
      'X-Hz': String(trace.hz),
    },
  });
}
