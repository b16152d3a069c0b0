import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { bringIn } from '#data/bringIn';
import { keyOf, kindByName } from '#data/media';
import { findProject, isId } from '#data/projects';
import { findReading } from '#data/readings';
import { uploadFolder } from '#data/storage';
import { readerVersion } from '#core/readings';
import { enqueueReading } from '#jobs/queue';
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
      if (!(await findProject(upload.metadata?.projectId ?? '')))
        throw { status_code: 404, body: 'This project does not exist any more.' };
      return {};
    },
    onUploadFinish: async (_request, upload) => {
      const { projectId, filename, binId } = upload.metadata as Record<string, string>;
      const name = cleanName(filename ?? '');
      try {
        const file = join(uploadFolder(), upload.id);
        const row = await bringIn(projectId!, file, name, { binId: isId(binId) ? binId : null });
        await rm(`${file}.json`, { force: true });
        await rm(file, { force: true });
        if (!(await findReading(keyOf(row), readerVersion)))
          await enqueueReading(projectId!, keyOf(row), name, kindByName(name) === 'photo' ? 1 : null);
        return { body: row.id };
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

/** File names come from anywhere: no folders, no control characters, not too long. */
function cleanName(name: string): string {
  // eslint-disable-next-line no-control-regex
  const plain = name
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .split(/[\\/]/)
    .at(-1)!
    .trim();
  return plain.slice(-200) || 'unnamed';
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
