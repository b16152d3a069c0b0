import { showLevels } from '#usecases/readings';
import { plainAnswer } from '../server/answer.server';
import { binary } from '../server/binary.server';
import type { Route } from './+types/mediaLevels';

/** The sound level of an item in dBFS as float32, 50 a second; for finding silences while a threshold moves. */
export async function loader({ params }: Route.LoaderArgs) {
  const levels = await showLevels(params.mediaId);
  if (!levels.ok) return plainAnswer(levels);
  // No sound, or not read yet: nothing to say, and no fault.
  if (!levels.value) return new Response(null, { status: 204 });
  const { hz, values } = levels.value;
  return binary(new Uint8Array(values.buffer as ArrayBuffer), { 'X-Hz': String(hz) });
}
