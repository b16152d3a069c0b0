import { isId } from '#data/projects';
import { findRender } from '#data/tasks';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/outputFile';

/** A finished render: to look at, or with ?download to take away. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const render = isId(params.renderId) ? await findRender(params.renderId) : null;
  if (!render?.storageKey) return new Response('This render does not exist, or is not finished.', { status: 404 });
  const download = new URL(request.url).searchParams.has('download');
  return sendStored(render.storageKey, request, download ? { downloadName: `${render.name}.${render.format}` } : {});
}
