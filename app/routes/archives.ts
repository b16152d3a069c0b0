import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { data } from 'react-router';
import { ArchiveError, openArchive } from '#data/archive';
import { scratchFolder } from '#data/storage';
import { archiveRowChecks } from '../server/archiveRows.server';
import type { Route } from './+types/archives';

/** Opens a project archive, sent as the body, as a new project. */
export async function action({ request }: Route.ActionArgs) {
  if (!request.body) return data({ problem: 'Nothing was sent.', projectId: null, missing: [] }, { status: 422 });
  await mkdir(scratchFolder(), { recursive: true });
  const file = join(scratchFolder(), `upload-${randomUUID()}.zip`);
  try {
    await pipeline(Readable.fromWeb(request.body as Parameters<typeof Readable.fromWeb>[0]), createWriteStream(file));
    return { problem: null, ...(await openArchive(file, archiveRowChecks())) };
  } catch (error) {
    if (error instanceof ArchiveError)
      return data({ problem: error.message, projectId: null, missing: [] }, { status: 422 });
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      return data(
        { problem: 'The disk is full. Free some space and open the archive again.', projectId: null, missing: [] },
        { status: 507 },
      );
    throw error;
  } finally {
    await rm(file, { force: true });
  }
}
