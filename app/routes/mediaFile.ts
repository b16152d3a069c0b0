import { readerVersion } from '#core/readings';
import { findFile, findMedia, keyOf } from '#data/media';
import { findReading } from '#data/readings';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/mediaFile';

/** What the player plays: the proxy when there is one, else the original. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const file = row && (await findFile(row.fileHash));
  if (!file) return new Response('This item is not in the project any more.', { status: 404 });
  const reading = await findReading(keyOf(row), readerVersion);
  // A part that was read alone has no proxy; one of the whole file, read before, serves as well.
  const proxy =
    reading?.proxyKey ??
    (row.parameters ? (await findReading({ hash: file.hash, parameters: '' }, readerVersion))?.proxyKey : null);
  return sendStored(proxy ?? file.storageKey, request, { immutable: true });
}
