import { showOutputCaptions } from '#usecases/outputCaptions';
import { attachment, plainAnswer } from '../server/answer.server';
import type { Route } from './+types/outputCaptions';

/** The captions that lie beside a finished file, as SRT. */
export async function loader({ params }: Route.LoaderArgs) {
  const captions = await showOutputCaptions(params.renderId);
  if (!captions.ok) return plainAnswer(captions);
  const { name, text } = captions.value;
  return new Response(text, {
    headers: { 'Content-Type': 'application/x-subrip; charset=utf-8', 'Content-Disposition': attachment(name) },
  });
}
