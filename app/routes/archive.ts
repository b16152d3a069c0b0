import { Readable } from 'node:stream';
import { packProject } from '#usecases/archives';
import { attachment, plainAnswer } from '../server/answer.server';
import type { Route } from './+types/archive';

/** The whole project as one file; with ?media the footage too. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const packed = await packProject(params.projectId, new URL(request.url).searchParams.has('media'));
  if (!packed.ok) return plainAnswer(packed);
  const { name, stream } = packed.value;
  request.signal.addEventListener('abort', () => stream.destroy());
  return new Response(Readable.toWeb(stream) as ReadableStream, {
    headers: { 'Content-Type': 'application/zip', 'Content-Disposition': attachment(name) },
  });
}
