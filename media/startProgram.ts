import { spawn, type ChildProcess, type ChildProcessByStdio, type SpawnOptions } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import type { Readable, Writable } from 'node:stream';
import { settings } from '#settings';
import { checkGraphs } from './graphGate';

/** Debian has both in `util-linux`, which no system is without. */
const limiter = '/usr/bin/prlimit';
const leash = '/usr/bin/setpriv';
const canHold = existsSync(limiter) && existsSync(leash);

/** Where a pipe is wanted there is one; the caller says which with `stdio`. */
type Pipes = 'in' | 'out' | 'words';
type Program<With extends Pipes> = ChildProcessByStdio<
  'in' extends With ? Writable : null,
  'out' extends With ? Readable : null,
  'words' extends With ? Readable : null
>;

/**
 * Starts a program that works on media. It takes no more memory than it may (`setrlimit`, RLIMIT_DATA), ends when this
 * process does however that ends (`prctl`, PR_SET_PDEATHSIG), and is killed when the signal says so, when it does nothing
 * for long, and when it takes longer than anything of that length can; `whyStopped` tells.
 * @param stdio what is piped, by its number: 'pipe' or 'ignore' for input, output, words and whatever else
 * @param options.lengthSeconds of the film or sound it works on
 */
export function startProgram<With extends Pipes = 'in' | 'out' | 'words'>(
  program: string,
  args: readonly string[],
  stdio: ('pipe' | 'ignore')[],
  options: { signal?: AbortSignal | undefined; folder?: string | undefined; lengthSeconds?: number | undefined } = {},
): Program<With> {
  if (program === 'ffmpeg') checkGraphs(args);
  const given: SpawnOptions = {
    stdio,
    killSignal: 'SIGKILL',
    ...(options.signal ? { signal: options.signal } : {}),
    ...(options.folder ? { cwd: options.folder } : {}),
  };
  const bytes = settings().BRIGHT_REEL_PROGRAM_BYTES;
  const [first, rest] = canHold
    ? [limiter, [`--data=${bytes}`, leash, '--pdeathsig', 'KILL', '--', program, ...args]]
    : [program, args];
  const child = spawn(first, rest, given);
  oversee(child, options.lengthSeconds ?? longestSeconds);
  return child as unknown as Program<With>;
}

/** Of footage; longer files are cut into parts. */
export const longestSeconds = 12 * 3600;
/** Whatever work on media takes beside its length; a slow machine that does several things at once takes so many times the length. */
const leastSeconds = 1800;
const timesLength = 60;

export type Stopped = 'still' | 'endless';
const stopped = new WeakMap<ChildProcess, Stopped>();
/** Why a program was ended before it was done: it did nothing for long, or went on for ever; undefined when it was not. */
export const whyStopped = (child: ChildProcess): Stopped | undefined => stopped.get(child);

/** Nothing takes so long between two signs of life, not even a seek through an hour without key frames. */
export const stallSeconds = (): number => settings().BRIGHT_REEL_STALL_SECONDS;

function oversee(child: ChildProcess, lengthSeconds: number): void {
  const began = Date.now();
  let last = began;
  let before: string | null = '';
  const stall = stallSeconds() * 1000;
  const most = (leastSeconds + timesLength * lengthSeconds) * 1000;
  const look = () => {
    const now = Date.now();
    const works = child.pid === undefined ? null : workDone(child.pid);
    // Where that cannot be told, whoever reads its pipes has to notice.
    if (works !== before || works === null) last = now;
    before = works;
    const why = now - began > most ? 'endless' : now - last > stall ? 'still' : null;
    if (!why) return;
    stopped.set(child, why);
    child.kill('SIGKILL');
  };
  const timer = setInterval(look, Math.min(5000, stall / 4));
  timer.unref();
  child.once('close', () => clearInterval(timer));
  child.once('error', () => clearInterval(timer));
}

/**
 * A number that grows as long as a process does anything: time on the processor and bytes that went in and out.
 * @returns null when it cannot be told
 */
function workDone(pid: number): string | null {
  try {
    const times = readFileSync(`/proc/${pid}/stat`, 'latin1').split(') ').at(-1)!.split(' ');
    const bytes = /^rchar: (\d+)\nwchar: (\d+)/.exec(readFileSync(`/proc/${pid}/io`, 'latin1'));
    return `${times[11]} ${times[12]} ${bytes?.[1]} ${bytes?.[2]}`;
  } catch {
    return null;
  }
}
