import { showReading } from '#usecases/inThreads';
import { encodeReading } from '../readings/readingCodec';
import { plainAnswer } from '../server/answer.server';
import { binary } from '../server/binary.server';
import type { Route } from './+types/mediaReading';

/** Decided traces and runs of one item, for the page and the choice. */
export async function loader({ params }: Route.LoaderArgs) {
  const reading = await showReading(params.mediaId);
  return reading.ok ? binary(encodeReading(reading.value)) : plainAnswer(reading);
}
