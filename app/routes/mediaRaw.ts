import { showRaw } from '#usecases/readings';
import { encodeRaw } from '../readings/readingCodec';
import { plainAnswer } from '../server/answer.server';
import { binary } from '../server/binary.server';
import type { Route } from './+types/mediaRaw';

/** Raw measurements of one item, so that the reading report can decide again while a sensitivity moves. */
export async function loader({ params }: Route.LoaderArgs) {
  const raw = await showRaw(params.mediaId);
  return raw.ok ? binary(encodeRaw(raw.value)) : plainAnswer(raw);
}
