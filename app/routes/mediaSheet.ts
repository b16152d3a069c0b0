import { findSheet } from '#usecases/readings';
import { plainAnswer } from '../server/answer.server';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/mediaSheet';

export async function loader({ params, request }: Route.LoaderArgs) {
  const sheet = await findSheet(params.mediaId, Number(params.sheet));
  if (!sheet.ok) return plainAnswer(sheet);
  return sendStored(sheet.value, request, { immutable: new URL(request.url).searchParams.has('read') });
}
