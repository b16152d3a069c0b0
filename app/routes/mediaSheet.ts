import { readerVersion } from '#core/readings';
import { findMedia } from '#data/media';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/mediaSheet';

export async function loader({ params, request }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const sheet = Number(params.sheet);
  if (!row || !Number.isInteger(sheet) || sheet < 1) return new Response('There is no such picture.', { status: 404 });
  return sendStored(`readings/${row.fileHash}/${readerVersion}/sheet-${String(sheet).padStart(4, '0')}.jpg`, request, { immutable: true });
}
