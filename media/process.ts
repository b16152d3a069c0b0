import { spawn } from 'node:child_process';
import { once } from 'node:events';

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

/** Runs a program to its end, in a folder if one is given, and gives its output; throws with its last words. */
export async function capture(program: string, args: string[], signal?: AbortSignal, folder?: string): Promise<Buffer> {
  const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'pipe'], signal, cwd: folder });
  const out: Buffer[] = [];
  let words = '';
  child.stdout.on('data', (chunk: Buffer) => out.push(chunk));
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-4000)));
  const [code] = await closing(child, signal);
  if (code !== 0) throw new Error(`${program} ended with ${code}: ${words.trim()}`);
  return Buffer.concat(out);
}

/** Waits for the child's end; a cancelled signal becomes `Cancelled`. */
export async function closing(child: ReturnType<typeof spawn>, signal?: AbortSignal): Promise<[number | null]> {
  try {
    return (await once(child, 'close')) as [number | null];
  } catch (error) {
    if (signal?.aborted) throw new Cancelled();
    throw new MediaError(`${child.spawnfile} could not be started; is it installed?`, { cause: error });
  }
}

/** A path as a value inside a filter graph. */
export const escaped = (path: string): string =>
  `'${path.replaceAll('\\', '\\\\\\\\').replaceAll("'", "'\\\\\\''").replaceAll(':', '\\\\:')}'`;
