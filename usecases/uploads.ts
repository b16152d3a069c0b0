import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { isInBucket, scratchFolder, uploadFolder } from '#data/storage';
import { forgetUpload, freeUploadLock, joinUpload, renewUploadLock, takeUploadLock } from '#data/uploads';

export { addToUpload, beginUpload, findUpload, forgetUpload } from '#data/uploads';
export { isInBucket, uploadFolder };

/** An upload that has come whole, as a local file that can be taken. @returns it, what takes away what was left, and what lets go of a copy that was not taken */
export async function wholeUpload(
  id: string,
): Promise<{ file: string; forget(): Promise<void>; giveUp(): Promise<void> }> {
  if (!isInBucket()) {
    const file = join(uploadFolder(), id);
    const forget = async () => {
      await rm(`${file}.json`, { force: true });
      await rm(file, { force: true });
    };
    return { file, forget, giveUp: () => Promise.resolve() };
  }
  await mkdir(scratchFolder(), { recursive: true });
  const file = join(scratchFolder(), `uploaded-${id}`);
  await joinUpload(id, file);
  const giveUp = () => rm(file, { force: true });
  const forget = async () => {
    await giveUp();
    await forgetUpload(id);
  };
  return { file, forget, giveUp };
}

const renewMilliseconds = 2000;
const againMilliseconds = 150;

/** The lock of an upload, held by one request of all web servers at a time (tus 1.0, on concurrent requests). */
export class UploadLock {
  private readonly holder = randomUUID();
  private timer: ReturnType<typeof setInterval> | null = null;

  constructor(private readonly id: string) {}

  /** @param letGo somebody else waits for it, or it was lost: its holder should come to an end */
  async lock(signal: AbortSignal, letGo: () => unknown): Promise<void> {
    while (!(await takeUploadLock(this.id, this.holder))) {
      signal.throwIfAborted();
      await new Promise((wake) => setTimeout(wake, againMilliseconds));
    }
    this.timer = setInterval(
      () =>
        void renewUploadLock(this.id, this.holder).then(
          (wanted) => wanted !== false && letGo(),
          () => undefined,
        ),
      renewMilliseconds,
    ).unref();
  }

  async unlock(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await freeUploadLock(this.id, this.holder);
  }
}
