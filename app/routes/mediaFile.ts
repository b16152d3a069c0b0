import { findPlayable } from '#usecases/readings';
import { plainAnswer } from '../server/answer.server';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/mediaFile';

/** What the player plays. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const file = await findPlayable(params.mediaId);
  return file.ok ? sendStored(file.value.key, request, { immutable: file.value.isLast }) : plainAnswer(file);
}
