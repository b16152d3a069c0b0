import { readerVersion } from '#core/readings';
import { findMedia, keyOf } from '#data/media';
import { findBestReading, readingFolder } from '#data/readings';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/mediaSheet';

export async function loader({ params, request }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const sheet = Number(params.sheet);
  if (!row || !Number.isInteger(sheet) || sheet < 1) return new Response('There is no such picture.', { status: 404 });
  const reading = await findBestReading(keyOf(row), readerVersion);
  if (!reading) return new Response('This item was not read yet.', { status: 404 });
  return sendStored(`${readingFolder(reading)}/sheet-${String(sheet).padStart(4, '0')}.jpg`, request, {
    immutable: new URL(request.url).searchParams.has('read'),
  });
}
