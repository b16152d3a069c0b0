import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Cancelled, MediaError, closing, diskFull } from './process';
import { startProgram } from './startProgram';
import { checkGraphs } from './graphGate';
import { Watchdog } from './watchdog';

/**
 * Runs ffmpeg to its end, with its progress in seconds. Filter graphs go by file: the kernel takes no argument over
 * 128 KB, and the graph of a reel of some hundred pieces is larger.
 * @returns its log
 * @throws MediaError with the reason; Cancelled
 */
export async function runFfmpeg(
  args: string[],
  signal?: AbortSignal,
  onSeconds?: (seconds: number) => void,
): Promise<string> {
  checkGraphs(args);
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-graph-'));
  try {
    return await run(await withGraphFiles(args, folder), signal, onSeconds);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The same call with its graphs in files. */
async function withGraphFiles(args: readonly string[], folder: string): Promise<string[]> {
  const out = [...args];
  for (let at = 0; at + 1 < out.length; at++) {
    if (out[at] !== '-filter_complex') continue;
    const file = join(folder, `graph-${at}`);
    await writeFile(file, out[at + 1]!);
    out.splice(at, 2, '-filter_complex_script', file);
  }
  return out;
}

async function run(
  args: string[],
  signal: AbortSignal | undefined,
  onSeconds?: (seconds: number) => void,
): Promise<string> {
  const progress = args.includes('-progress') ? [] : ['-progress', 'pipe:1'];
  const child = startProgram<'out' | 'words'>('ffmpeg', [...progress, ...args], ['ignore', 'pipe', 'pipe'], { signal });
  const watchdog = new Watchdog([child]);
  const ended = closing(child, signal);
  let words = '';
  let stood = '';
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-4000)));
  child.stdout.on('data', (chunk: Buffer) => {
    const said = chunk.toString();
    const time = /out_time_us=(\d+)/.exec(said);
    if (time) onSeconds?.(Number(time[1]) / 1e6);
    // It reports again and again, also while nothing moves.
    const stands = [...said.matchAll(/^(?:frame|out_time_us|total_size)=.*$/gm)].join();
    if (stands === stood) return;
    stood = stands;
    watchdog.touch();
  });
  try {
    const [code] = await ended;
    if (signal?.aborted) throw new Cancelled();
    watchdog.check('The render');
    if (code !== 0) throw new MediaError(explainRenderFailure(words, code), { cause: new Error(words) });
    return words;
  } finally {
    watchdog.stop();
  }
}

/** One sentence for people out of what ffmpeg said before it stopped; a code of null means that it was ended from outside. */
export function explainRenderFailure(words: string, code: number | null): string {
  if (/No space left on device/i.test(words)) return diskFull;
  if (/Cannot allocate memory|Out of memory/i.test(words))
    return 'The render stopped: this machine has not enough memory for it. Let less run at once, or render fewer lines.';
  if (/Too many open files/i.test(words))
    return 'The render stopped: too many files were open at once. Let less run at once, then try again.';
  if (code === null)
    return 'The render was ended from outside, perhaps because memory ran out. Try again; it goes on where it stopped.';
  // The last line that is about something, without the addresses of filters in brackets.
  const lines = words
    .split('\n')
    .map((line) => line.replace(/^\[[^\]]*\]\s*/, '').trim())
    .filter(
      (line) =>
        line &&
        !/^(Conversion failed|Last message repeated|Error (initializing|configuring|opening) filters)/i.test(line),
    );
  const last = lines.at(-1)?.slice(0, 200);
  return `The render stopped before its end${last ? `: ffmpeg says “${last}”` : ''}. Try again; if it stops again, a piece of the footage may be damaged.`;
}
