import { readerVersion } from '#core/readings';
import { findMedia, keyOf } from '#data/media';
import { loadRaw } from '#data/readings';
import { encodeRaw } from '../page/readingCodec';
import type { Route } from './+types/mediaRaw';

/** Raw measurements of one item, so that the reading report can decide again while a sensitivity moves. */
export async function loader({ params }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const raw = row && (await loadRaw(keyOf(row), readerVersion));
  if (!raw) return new Response('This item was not read yet.', { status: 404 });
  return new Response(encodeRaw(raw) as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, no-cache, no-transform' },
  });
}
