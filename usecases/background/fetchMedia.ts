import { createHash } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { bringIn } from '#data/bringIn';
import { bringInHere } from '#data/here';
import { isId } from '#data/projects';
import { herePath, scratchFolder } from '#data/storage';
import { fetchLink, LinkBroken } from '#media/outlets/fetchLink';
import { probe } from '#media/probe/probe';
import { Cancelled, MediaError } from '#media/process';
import { settings } from '#settings';
import { queueArrival } from '../queue';
import type { Work } from './runTask';

/** Brings a file in from an address, or from where it lies on this machine; the subject is "BIN ADDRESS". What came before a fault is kept, and taken up again. */
export async function fetchMedia({ task, signal, progress }: Work): Promise<string | null> {
  const [bin, ...rest] = task.subject.split(' ');
  const address = rest.join(' ');
  const path = herePath(address);
  if (path !== null) {
    const row = await bringInHere(task.projectId!, path, path.split('/').at(-1)!, isId(bin) ? bin : null).catch(
      (error: NodeJS.ErrnoException) => {
        if (error.code !== 'ENOENT') throw error;
        throw new MediaError('This file is not there any more.', { cause: error });
      },
    );
    await queueArrival(row);
    return null;
  }
  await mkdir(scratchFolder(), { recursive: true });
  const file = join(
    scratchFolder(),
    `link-${createHash('sha256').update(`${task.projectId} ${address}`).digest('hex').slice(0, 24)}`,
  );
  try {
    const name = await fetchLink(address, file, {
      signal,
      maxBytes: settings().BRIGHT_REEL_LINK_BYTES,
      // The shipped stand-in, and what the installation adds.
      allowed: settings().BRIGHT_REEL_ALLOWED_HOSTS,
      onProgress: (bytes, total) => progress(total ? Math.min(0.99, bytes / total) : 0.5),
    });
    // By its content, whatever its name and the host say that it is.
    const found = await probe(file).catch((error: unknown) => {
      throw new MediaError(
        `What lies at this address is no film, sound or picture that can be read. ${error instanceof MediaError ? error.message : ''}`.trim(),
        { cause: error },
      );
    });
    const named = /\.\w{2,5}$/.test(name)
      ? name
      : `${name}${found.kind === 'photo' ? '.jpg' : found.kind === 'sound' ? '.m4a' : '.mp4'}`;
    const row = await bringIn(task.projectId!, file, named, { binId: isId(bin) ? bin : null });
    await queueArrival(row);
    await rm(file, { force: true });
    return null;
  } catch (error) {
    // What came is kept where it can go on from there.
    if (!(error instanceof Cancelled) && !(error instanceof LinkBroken)) await rm(file, { force: true });
    throw error;
  }
}
