import { showReadings } from '#usecases/inThreads';
import { encodeReadings } from '../readings/readingCodec';
import { plainAnswer } from '../server/answer.server';
import { binary } from '../server/binary.server';
import type { Route } from './+types/readings';

/** Decided traces and runs of the items `of`, for the page and the choice. */
export async function loader({ request }: Route.LoaderArgs) {
  const readings = await showReadings(new URL(request.url).searchParams.get('of'));
  return readings.ok ? binary(encodeReadings(readings.value)) : plainAnswer(readings);
}
