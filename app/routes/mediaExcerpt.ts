import { hearExcerpt } from '#usecases/readings';
import { plainAnswer } from '../server/answer.server';
import type { Route } from './+types/mediaExcerpt';

/** Some seconds of one track or channel of an item, to listen to before it is chosen. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const heard = await hearExcerpt(
    params.mediaId,
    Object.fromEntries(new URL(request.url).searchParams),
    request.signal,
  );
  if (!heard.ok) return plainAnswer(heard);
  return new Response(heard.value as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': 'audio/webm',
      'Cache-Control': 'private, no-cache',
      'X-Content-Type-Options': 'nosniff',
    },
  });
}
