import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { scratchFolder } from '#data/storage';
import { unpackProject } from './inThreads';

/** Takes in a project archive as it comes, and opens it once it is whole. */
export async function takeArchive(given: Readable): ReturnType<typeof unpackProject> {
  await mkdir(scratchFolder(), { recursive: true });
  const file = join(scratchFolder(), `upload-${randomUUID()}.zip`);
  try {
    await pipeline(given, createWriteStream(file));
    return await unpackProject(file);
  } finally {
    await rm(file, { force: true });
  }
}
