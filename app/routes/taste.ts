import { writeTaste } from '#usecases/tastes';
import { attachment, plainAnswer } from '../server/answer.server';
import type { Route } from './+types/taste';

/** A taste as a file, to take along. */
export async function loader({ params }: Route.LoaderArgs) {
  const written = await writeTaste(params.tasteId);
  if (!written.ok) return plainAnswer(written);
  return new Response(written.value.text, {
    headers: {
      'Content-Type': 'application/json; charset=utf-8',
      'Content-Disposition': attachment(`${written.value.name}.taste.json`),
    },
  });
}
