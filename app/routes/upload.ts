import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { takesUploads, uploadFolder } from '#usecases/footage';
import { takeUpload } from '#usecases/inThreads';
import { itemHeader } from '../footage/itemHeader';
import type { Route } from './+types/upload';

/** Resumable uploads (tus 1.0): a broken one goes on where it stopped. */
let tus: Server | null = null;

function server(): Server {
  if (tus) return tus;
  mkdirSync(uploadFolder(), { recursive: true });
  tus = new Server({
    path: '/upload',
    relativeLocation: true,
    datastore: new FileStore({ directory: uploadFolder(), expirationPeriodInMilliseconds: 7 * 86_400_000 }),
    onUploadCreate: async (_request, upload) => {
      if (!(await takesUploads(upload.metadata?.projectId)))
        throw { status_code: 404, body: 'This project does not exist any more.' };
      return {};
    },
    onUploadFinish: async (_request, upload) => {
      const { projectId, filename, binId, binName } = upload.metadata as Record<string, string>;
      try {
        const file = join(uploadFolder(), upload.id);
        const id = await takeUpload(projectId!, file, filename ?? '', binId, binName);
        await rm(`${file}.json`, { force: true });
        await rm(file, { force: true });
        // In a header: an answer of 204, as tus wants it, has no body.
        return { headers: { [itemHeader]: id } };
      } catch (error) {
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
  const answer = await server().handleWeb(request);
  const headers = new Headers(
    [...answer.headers].filter(([name]) => !name.toLowerCase().startsWith('access-control-')),
  );
  return new Response(answer.body, { status: answer.status, statusText: answer.statusText, headers });
}

export const loader = ({ request }: Route.LoaderArgs) => handle(request);
export const action = ({ request }: Route.ActionArgs) => handle(request);
