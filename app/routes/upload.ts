import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { mkdirSync } from 'node:fs';
import { takesUploads, whyNoRoom } from '#usecases/footage';
import { takeUpload } from '#usecases/inThreads';
import { speechModelPlace, takeSpeechModel } from '#usecases/speechModels';
import { isInBucket, uploadFolder, UploadLock, wholeUpload } from '#usecases/uploads';
import { hearOut } from '../server/answer.server';
import { PartStore } from '../server/partStore.server';
import { itemHeader } from '../footage/itemHeader';
import type { Route } from './+types/upload';

/** Resumable uploads (tus 1.0): a broken one goes on where it stopped, on whichever web server its next part comes to. */
let tus: Server | null = null;

function server(): Server {
  if (tus) return tus;
  mkdirSync(uploadFolder(), { recursive: true });
  tus = new Server({
    locker: { newLock: (id) => new UploadLock(id) },
    path: '/upload',
    relativeLocation: true,
    datastore: isInBucket()
      ? new PartStore()
      : new FileStore({ directory: uploadFolder(), expirationPeriodInMilliseconds: 7 * 86_400_000 }),
    onUploadCreate: async (_request, upload) => {
      const { projectId } = upload.metadata ?? {};
      if (projectId !== speechModelPlace && !(await takesUploads(projectId)))
        throw { status_code: 404, body: 'This project does not exist any more.' };
      const full = await whyNoRoom(upload.size ?? 0);
      if (full) throw { status_code: 507, body: full };
      return {};
    },
    onUploadFinish: async (_request, upload) => {
      const { projectId, filename, binId, binName } = upload.metadata as Record<string, string>;
      try {
        const { file, forget, giveUp } = await wholeUpload(upload.id);
        if (projectId === speechModelPlace) {
          const taken = await takeSpeechModel(file, filename ?? '');
          await forget();
          if (!taken.ok) throw { status_code: 422, body: taken.sentence };
          return { headers: { [itemHeader]: encodeURIComponent(taken.value) } };
        }
        const id = await takeUpload(projectId!, file, filename ?? '', binId, binName).catch(async (error: unknown) => {
          await giveUp();
          throw error;
        });
        await forget();
        // In a header: an answer of 204, as tus wants it, has no body.
        return { headers: { [itemHeader]: id } };
      } catch (error) {
        if ((error as { status_code?: number }).status_code) throw error;
        const full = (error as NodeJS.ErrnoException).code === 'ENOSPC';
        throw {
          status_code: full ? 507 : 500,
          body: full
            ? 'The disk is full. Free some space and try again.'
            : 'The file arrived but could not be stored. Try again.',
        };
      }
    },
  });
  return tus;
}

/** The upload server allows every site to call it; ours is for its own pages. */
async function handle(request: Request): Promise<Response> {
  // A part is at most some megabytes long, so that looking before each is looking all the time.
  const full = request.method === 'PATCH' ? await whyNoRoom(Number(request.headers.get('content-length')) || 0) : null;
  if (full) {
    await hearOut(request);
    return new Response(full, { status: 507 });
  }
  const answer = await server().handleWeb(request);
  const headers = new Headers(
    [...answer.headers].filter(([name]) => !name.toLowerCase().startsWith('access-control-')),
  );
  // What of the protocol is not offered here is a mistake of whoever asks for it.
  const status = answer.status === 501 ? 400 : answer.status;
  return new Response(answer.body, { status, statusText: answer.statusText, headers });
}

export const loader = ({ request }: Route.LoaderArgs) => handle(request);
export const action = ({ request }: Route.ActionArgs) => handle(request);
