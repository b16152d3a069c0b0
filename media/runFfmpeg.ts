import { spawn } from 'node:child_process';
import { Cancelled, MediaError, closing, diskFull } from './process';

/** Runs ffmpeg to its end, with its progress in seconds. @returns its log */
export async function runFfmpeg(args: string[], signal?: AbortSignal, onSeconds?: (seconds: number) => void): Promise<string> {
  const child = spawn('ffmpeg', args, { stdio: ['ignore', 'pipe', 'pipe'], signal, killSignal: 'SIGKILL' });
  const ended = closing(child, signal);
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-4000)));
  child.stdout.on('data', (chunk: Buffer) => {
    const time = /out_time_us=(\d+)/.exec(chunk.toString());
    if (time) onSeconds?.(Number(time[1]) / 1e6);
  });
  const [code] = await ended;
  if (signal?.aborted) throw new Cancelled();
  if (/No space left on device/i.test(words)) throw new MediaError(diskFull);
  if (code !== 0) throw new MediaError('The render stopped before its end. Try again; if it stops again, a piece of the footage may be damaged.', { cause: new Error(words) });
  return words;
}
