import { rm, stat, statfs, writeFile } from 'node:fs/promises';
import { dirname, extname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { degreesOf } from '#core/picture';
import { probe, type Probe } from '../probe/probe';
import { Cancelled, MediaError, closing, diskFull } from '../process';
import { startProgram } from '../startProgram';
import { Watchdog } from '../watchdog';

/** Containers that hold what lies in parts of the same kind; others go into Matroska. */
const kept = new Set(['.mp4', '.m4v', '.mov', '.mkv', '.mts', '.m2ts', '.ts', '.wav', '.mp3', '.m4a', '.flac', '.ogg']);
const muxers: Record<string, string> = {
  '.m4v': 'mp4',
  '.m4a': 'ipod',
  '.mts': 'mpegts',
  '.m2ts': 'mpegts',
  '.ts': 'mpegts',
};
/** A whole may differ in length from its parts by so much at each join, in seconds: frames of sound are not parted where pictures are. */
const slackSeconds = 0.15;
/** Left free on the disk. */
const reserveBytes = 200e6;

/** The ending of a whole whose first part is called so. */
export const endingOfWhole = (name: string): string => {
  const ending = extname(name).toLowerCase();
  return kept.has(ending) ? ending : '.mkv';
};

/**
 * Writes parts of one recording behind one another, packet by packet: nothing is coded anew. What the first part says of its
 * start holds for the whole.
 * @param parts paths, in order
 * @param output with an ending of `endingOfWhole`
 * @throws MediaError when they are not of one kind, or when something is missing in the whole; Cancelled
 */
export async function joinParts(
  parts: readonly string[],
  output: string,
  options: { signal?: AbortSignal; onProgress?(share: number): void } = {},
): Promise<void> {
  const { signal, onProgress } = options;
  const infos = await Promise.all(parts.map((part) => probe(part)));
  const seconds = infos.reduce((sum, info) => sum + info.durationSeconds, 0);
  const bytes = (await Promise.all(parts.map((part) => stat(part)))).reduce((sum, { size }) => sum + size, 0);
  const { bavail, bsize } = await statfs(dirname(output));
  if (bavail * bsize < bytes + reserveBytes)
    throw new MediaError(
      `The disk has too little room: one file of all takes ${(bytes / 1e9).toFixed(1)} GB more. Free some space, then try again.`,
    );
  const list = join(dirname(output), `${output.split('/').at(-1)!}.txt`);
  await writeFile(list, parts.map((part) => `file 'file:${part.replaceAll("'", "'\\''")}'\n`).join(''));
  const child = startProgram<'out' | 'words'>(
    'ffmpeg',
    argumentsFor(list, output, infos[0]!),
    ['ignore', 'pipe', 'pipe'],
    {
      signal,
    },
  );
  const ended = closing(child, signal);
  ended.catch(() => undefined);
  const watchdog = new Watchdog([child]);
  watchdog.watch(child.stdout);
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-2000)));
  createInterface({ input: child.stdout }).on('line', (line) => {
    const time = /^out_time_us=(\d+)/.exec(line);
    if (time) onProgress?.(Math.min(0.99, Number(time[1]) / 1e6 / seconds));
  });
  try {
    const [code] = await ended;
    if (/No space left/i.test(words)) throw new MediaError(diskFull);
    if (code !== 0)
      throw new MediaError('These files could not be put together; they stay as they are.', {
        cause: new Error(words),
      });
    checkWhole(await probe(output), infos, seconds);
  } catch (error) {
    if (signal?.aborted) throw new Cancelled();
    throw error;
  } finally {
    watchdog.stop();
    child.kill('SIGKILL');
    await rm(list, { force: true });
  }
}

function argumentsFor(list: string, output: string, first: Probe): string[] {
  const ending = extname(output);
  const muxer = muxers[ending];
  const degrees = first.coding && first.kind === 'video' ? degreesOf(first.coding.orientation) : 0;
  return [
    ...['-v', 'error', '-nostdin', '-y', '-progress', 'pipe:1'],
    ...['-protocol_whitelist', 'file', '-f', 'concat', '-safe', '0', '-i', list],
    ...['-map', '0:v?', '-map', '0:a?', '-c', 'copy', '-map_metadata', '0', '-copy_unknown'],
    ...(first.startTimecode ? ['-timecode', first.startTimecode] : []),
    ...(first.recordedAt ? ['-metadata', `creation_time=${first.recordedAt}`] : []),
    ...(first.reelName ? ['-metadata', `reel_name=${first.reelName}`] : []),
    ...(degrees ? ['-metadata:s:v:0', `rotate=${degrees}`] : []),
    ...(ending === '.wav' ? ['-rf64', 'auto'] : []),
    ...(muxer ? ['-f', muxer] : []),
    output,
  ];
}

/** @throws MediaError when the whole is not what its parts were */
function checkWhole(whole: Probe, parts: readonly Probe[], seconds: number): void {
  const first = parts[0]!;
  const same =
    whole.kind === first.kind &&
    whole.width === first.width &&
    whole.height === first.height &&
    whole.coding?.orientation === first.coding?.orientation &&
    whole.soundTracks.length === first.soundTracks.length &&
    whole.startTimecode === first.startTimecode;
  if (!same || Math.abs(whole.durationSeconds - seconds) > slackSeconds * parts.length)
    throw new MediaError('Something would be missing in one file of all; the files stay as they are.');
}
