import { Readable } from 'node:stream';
import { data } from 'react-router';
import { takeArchive } from '#usecases/takeArchive';
import { failed, succeeded } from '../server/answer.server';
import type { Route } from './+types/archives';

const none = { projectId: null, missing: [] as string[] };

/** Opens a project archive, sent as the body, as a new project. */
export async function action({ request }: Route.ActionArgs) {
  if (!request.body) return data({ problem: 'Nothing was sent.', ...none }, { status: 422 });
  try {
    const opened = await takeArchive(Readable.fromWeb(request.body as Parameters<typeof Readable.fromWeb>[0]));
    return opened.ok ? succeeded(opened.value) : failed(opened, none);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
    const problem = 'The disk is full. Free some space and open the archive again.';
    return data({ problem, ...none }, { status: 507 });
  }
}
