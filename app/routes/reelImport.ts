import type { ImportedReel } from '#usecases/importReel';
import { importReel } from '#usecases/inThreads';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/reelImport';

const nothing: ImportedReel = { missing: [], left: [], reel: null };

/** Makes a reel of a document of another program. */
export async function action({ params, request }: Route.ActionArgs) {
  const imported = await importReel(params.projectId, await jsonOf(request));
  return imported.ok ? succeeded(imported.value) : failed(imported, nothing);
}
