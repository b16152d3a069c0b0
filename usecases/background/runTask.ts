import { randomUUID } from 'node:crypto';
import { Cancelled, MediaError } from '#media/process';
import { holdingFiles } from '#data/localCache';
import { endTask, giveBack, heartbeat, paceOfKind, saySentence, startTask, yieldTurn, type Task } from '#data/tasks';
import { keepAlive } from './pulse';
import { TimeLeft } from './timeLeft';
import { withRoom } from './waitForRoom';

const beatSeconds = 1;
/** Runs of this process that are not over. */
const runs = new Set<string>();
export const runsNow = (): string[] => [...runs];
/** What is done as a run of this process without being a task. */
export async function asRun<T>(work: (run: string) => Promise<T>): Promise<T> {
  const run = randomUUID();
  runs.add(run);
  try {
    return await work(run);
  } finally {
    runs.delete(run);
  }
}

/** What a task answers that goes on later, after others had their turn. */
export const later = Symbol('later');
export type TaskOutcome = string | null | typeof later;

export interface Work {
  task: Task;
  /** Names this run of it. */
  run: string;
  signal: AbortSignal;
  progress(share: number): void;
  /** A sentence that shows while the task goes on, or none; screens look anew when it changes. */
  say(sentence: string | null): Promise<void>;
}

/**
 * Runs one task: heartbeat, progress with time left, cancel. Faults with a sentence for people end the task; others put
 * it back and are thrown, so that the queue tries again, until the last attempt. A run that another worker took the task
 * from stops and leaves everything to that one.
 */
export async function runTask(
  taskId: string,
  lastAttempt: boolean,
  stop: AbortSignal | undefined,
  work: (work: Work) => Promise<TaskOutcome>,
): Promise<void> {
  const run = randomUUID();
  const task = await startTask(taskId, run);
  if (!task) return;
  const abort = new AbortController();
  let stands: 'on' | 'cancel' | 'lost' = 'on';
  const leave = () => abort.abort();
  stop?.addEventListener('abort', leave);
  let share = task.progress;
  const guess = task.workSeconds === null ? null : task.workSeconds * (await paceOfKind(task.kind).catch(() => 1));
  const left = new TimeLeft(guess);
  const began = Date.now();
  const progress = (now: number) => {
    share = now;
  };
  const timer = setInterval(() => {
    left.note(share, (Date.now() - began) / 1000);
    heartbeat(taskId, run, share, left.seconds).then(
      (heard) => {
        if (heard === 'on' || abort.signal.aborted) return;
        stands = heard;
        abort.abort();
      },
      () => undefined,
    );
  }, beatSeconds * 1000);
  runs.add(run);
  const letGo = keepAlive(taskId, run);
  try {
    const say = (said: string | null) => saySentence(taskId, run, said);
    const outcome = await withRoom(abort.signal, say, (signal) =>
      holdingFiles(() => work({ task, run, signal, progress, say })),
    );
    if (outcome === later) await yieldTurn(taskId, run);
    else await endTask(taskId, run, 'done', outcome);
  } catch (error) {
    const now = stands as 'on' | 'cancel' | 'lost';
    if (now === 'lost') return;
    if (now === 'cancel') return void (await endTask(taskId, run, 'cancelled', 'Cancelled.'));
    if (error instanceof MediaError) return void (await endTask(taskId, run, 'failed', error.message));
    if (lastAttempt && !(error instanceof Cancelled))
      await endTask(taskId, run, 'failed', sentenceFor(error, task.kind));
    else await giveBack(taskId, run);
    throw error;
  } finally {
    clearInterval(timer);
    runs.delete(run);
    letGo();
    stop?.removeEventListener('abort', leave);
  }
}

/** What a fault that is nobody's mistake means for the editor: what happened, what is safe, what to do. */
export function sentenceFor(error: unknown, kind: Task['kind']): string {
  const code = (error as NodeJS.ErrnoException | null)?.code;
  switch (code) {
    case 'ENOSPC':
      return 'The disk is full. Free some space, then try again.';
    case 'EFBIG':
      return 'This file is larger than what this worker may keep of the store. Whoever runs it can allow more: BRIGHT_REEL_CACHE_BYTES.';
    case 'ENOENT':
      return 'A file that is needed has vanished. Bring it in again.';
    case 'EACCES':
    case 'EPERM':
      return 'The worker may not read or write a file that it needs. Check the permissions of the data folder, then try again.';
    case 'E2BIG':
      return 'This is too large for one call of ffmpeg. Make it in two parts.';
    case 'ENOMEM':
      return 'This machine ran out of memory. Let less run at once, then try again.';
  }
  // Several lines of a program are for the log; the first says what happened.
  const [said = ''] = (error instanceof Error ? error.message : String(error)).trim().split('\n');
  const what = kind === 'render' ? 'The render' : 'The work';
  return `${what} stopped: ${said.slice(0, 240) || 'no reason was given'}. What you edited is safe; the log of the worker says more.`;
}
