import { rename, rm, writeFile } from 'node:fs/promises';
import { MediaError } from '#media/process';

/** Writes whole or not at all. */
export async function writeWhole(file: string, text: string) {
  const part = `${file}.part`;
  try {
    await writeFile(part, text);
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw new MediaError(
      `${file} cannot be written: ${(error as NodeJS.ErrnoException).code === 'ENOSPC' ? 'the disk is full' : 'check the folder and its permissions'}.`,
      { cause: error },
    );
  }
}
