import { redirect } from 'react-router';
import { readerVersion } from '#core/readings';
import { listMedia } from '#data/media';
import type { Route } from './+types/projectIndex';

/** A project with something read opens on its moments, an empty one where footage comes in. */
export async function loader({ params }: Route.LoaderArgs) {
  const items = await listMedia(params.projectId, readerVersion).catch(() => []);
  return redirect(items.some((item) => item.probe?.kind === 'video') ? 'moments' : 'footage');
}
