import { readerVersion } from '#core/readings';
import { findMedia, keyOf } from '#data/media';
import { findProject } from '#data/projects';
import { loadDerived } from '#data/readings';
import { encodeReading } from '../page/readingCodec';
import type { Route } from './+types/mediaReading';

/** Decided traces and runs of one item as binary data, for the page and the choice. Packing them tighter takes longer than sending them. */
export async function loader({ params }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const project = row && (await findProject(row.projectId));
  const derived = row && (await loadDerived(keyOf(row), readerVersion, project?.rules));
  if (!derived) return new Response('This item was not read yet.', { status: 404 });
  return new Response(encodeReading(derived) as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, no-cache, no-transform' },
  });
}
