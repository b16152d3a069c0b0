import { Readable } from 'node:stream';
import { writeArchive } from '#data/archive';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/archive';

/** The whole project as one file; with ?media the footage too. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const stream = await writeArchive(project.id, new URL(request.url).searchParams.has('media'));
  request.signal.addEventListener('abort', () => stream.destroy());
  return new Response(Readable.toWeb(stream) as ReadableStream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${project.name}.zip`)}`,
    },
  });
}
