import type { Readable } from 'node:stream';
import { StringDecoder } from 'node:string_decoder';
import { closing, MediaError } from './process';
import { startProgram } from './startProgram';

/** More than this is no answer but a mistake; the sound of twelve hours at 16 kHz is under it. */
const mostBytes = 4e9;
/** What a shell and its relatives end with when there is no such program (POSIX, 2.8.2). */
const notFound = 127;

/**
 * Runs a program to its end and gives its output.
 * @param options.lengthSeconds of what it works on, for how long it may take
 * @param options.onWords a line of what it says about its work
 * @param options.onLine a line of its output, as soon as it is whole
 * @param options.onChunk takes its output as it comes; nothing of it is kept then
 * @throws Error with its last words; MediaError when it stood still or went on for ever; Cancelled
 */
export async function capture(
  program: string,
  args: string[],
  options: {
    signal?: AbortSignal | undefined;
    folder?: string;
    lengthSeconds?: number;
    onWords?: ((line: string) => void) | undefined;
    onLine?: ((line: string) => void) | undefined;
    onChunk?: ((chunk: Buffer) => void) | undefined;
  } = {},
): Promise<Buffer> {
  const child = startProgram<'out' | 'words'>(program, args, ['ignore', 'pipe', 'pipe'], {
    lengthSeconds: 0,
    ...options,
  });
  const out: Buffer[] = [];
  let bytes = 0;
  let words = '';
  child.stdout.on('data', (chunk: Buffer) => {
    if (options.onChunk) return options.onChunk(chunk);
    bytes += chunk.length;
    if (bytes > mostBytes) child.kill('SIGKILL');
    else out.push(chunk);
  });
  child.stderr.on('data', (chunk: Buffer) => {
    words = (words + chunk.toString()).slice(-4000);
  });
  if (options.onWords) eachLine(child.stderr, options.onWords);
  if (options.onLine) eachLine(child.stdout, options.onLine);
  const [code] = await closing(child, options.signal);
  if (code === notFound) throw new MediaError(`${program} could not be started; is it installed?`);
  if (code !== 0) throw new Error(`${program} ended with ${code}: ${words.trim()}`);
  return Buffer.concat(out);
}

/** Lines that come in pieces, each when it is whole; letters that come in pieces, too. */
function eachLine(from: Readable, tell: (line: string) => void): void {
  const decoder = new StringDecoder('utf8');
  let begun = '';
  from.on('data', (chunk: Buffer) => {
    const lines = (begun + decoder.write(chunk)).split('\n');
    begun = lines.pop()!;
    lines.forEach(tell);
  });
}
