import { findShownFile } from '#usecases/viewingLink';
import { plainAnswer } from '../server/answer.server';
import { sendStored } from '../server/sendFile.server';
import { visitorOf } from '../server/visitor.server';
import type { Route } from './+types/viewingFilm';

/** The film of a version that is shown under a link: to look at, or with ?download to take along where that is allowed. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const { token, versionId } = params;
  const found = await findShownFile(token, await visitorOf(request, token), versionId);
  if (!found.ok) return plainAnswer(found);
  const { key, name, mayDownload } = found.value;
  if (!new URL(request.url).searchParams.has('download')) return sendStored(key, request);
  return mayDownload
    ? sendStored(key, request, { downloadName: name })
    : new Response('This film is to be looked at here; it cannot be downloaded.', { status: 403 });
}
