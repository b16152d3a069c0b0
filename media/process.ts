import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { stallSeconds, whyStopped, type Stopped } from './startProgram';

/** A fault of the material or its handling, with a sentence for people: what is wrong, what to do. */
export class MediaError extends Error {
  constructor(message: string, options?: ErrorOptions) {
    super(message, options);
    this.name = 'MediaError';
  }
}

export const diskFull = 'The disk is full. Free some space, then try again: the render goes on where it stopped.';

/** Asked to stop; not a fault. */
export class Cancelled extends Error {
  constructor() {
    super('Cancelled.');
    this.name = 'Cancelled';
  }
}

/**
 * Put before every input: ffmpeg may read this one local file and nothing else, so that a playlist in disguise
 * cannot make the server open other files or addresses.
 */
export const inputGuard = ['-protocol_whitelist', 'file'];

/** Guard and input for one file. Pictures are taken literally: "photo-%02d.jpg" is a name here, not a series. */
export function inputArguments(file: string): string[] {
  const picture = /\.(jpe?g|png|webp|bmp|tiff?)$/i.test(file);
  return [...inputGuard, ...(picture ? ['-f', 'image2', '-pattern_type', 'none'] : []), '-i', file];
}

/** Formats that name other files; they are refused before anything opens them. */
const pointingFormats = /^(hls|dash|concat|ffmetadata|sdp|rtsp|playlist|imf|tedcaptions|smil|applehttp)/;
export const pointsElsewhere = (formatName: string): boolean =>
  formatName.split(',').some((name) => pointingFormats.test(name));

/** What is said of a program that had to be stopped. @param what was done, as the beginning of a sentence */
export const stoppedSentence = (what: string, why: Stopped, seconds = stallSeconds()): string =>
  `${what} ${why === 'still' ? `made no progress for ${Math.round(seconds)} s` : 'took longer than anything of its length can take'} and was stopped. The file may be damaged there; a copy made with another program may help.`;

/**
 * Waits for the child's end.
 * @throws Cancelled when the signal said so; MediaError when it could not be started or had to be stopped
 */
export async function closing(child: ChildProcess, signal?: AbortSignal): Promise<[number | null]> {
  try {
    const ended = (await once(child, 'close')) as [number | null];
    const why = whyStopped(child);
    if (why) throw new MediaError(stoppedSentence('The work on this file', why));
    return ended;
  } catch (error) {
    if (signal?.aborted) throw new Cancelled();
    if (error instanceof MediaError) throw error;
    throw new MediaError(`${child.spawnfile} could not be started; is it installed?`, { cause: error });
  }
}

/** A path as a value inside a filter graph. */
export const escaped = (path: string): string =>
  `'${path.replaceAll('\\', '\\\\\\\\').replaceAll("'", "'\\\\\\''").replaceAll(':', '\\\\:')}'`;
