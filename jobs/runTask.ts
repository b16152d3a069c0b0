import { Cancelled, MediaError } from '#media/process';
import { beat, endTask, startTask, type Task } from '#data/tasks';

const beatSeconds = 1;

export interface Work {
  task: Task;
  signal: AbortSignal;
  progress(share: number): void;
}

/**
 * Runs one task: heartbeat, progress with time left, cancel. Faults with a sentence for people end the task; others
 * are thrown, so that the queue tries again, until the last attempt.
 */
export async function runTask(taskId: string, workerId: string, lastAttempt: boolean, stop: AbortSignal | undefined, work: (work: Work) => Promise<string | null>): Promise<void> {
  const task = await startTask(taskId, workerId);
  if (!task) return;
  const abort = new AbortController();
  let cancelled = false;
  const leave = () => abort.abort();
  stop?.addEventListener('abort', leave);
  let share = 0;
  const started = Date.now();
  const timer = setInterval(() => {
    beat(taskId, share, timeLeft(share, (Date.now() - started) / 1000)).then(
      (asked) => {
        if (asked && !abort.signal.aborted) {
          cancelled = true;
          abort.abort();
        }
      },
      () => undefined,
    );
  }, beatSeconds * 1000);
  try {
    const sentence = await work({ task, signal: abort.signal, progress: (now) => (share = now) });
    await endTask(taskId, 'done', sentence);
  } catch (error) {
    if (cancelled) return void (await endTask(taskId, 'cancelled', 'Cancelled.'));
    if (error instanceof MediaError) return void (await endTask(taskId, 'failed', error.message));
    if (error instanceof Cancelled) throw error;
    if (lastAttempt) await endTask(taskId, 'failed', sentenceFor(error));
    throw error;
  } finally {
    clearInterval(timer);
    stop?.removeEventListener('abort', leave);
  }
}

/** From the pace so far; nothing is said before there is a pace. */
export function timeLeft(share: number, elapsedSeconds: number): number | null {
  if (share < 0.02 || elapsedSeconds < 1.5) return null;
  return (elapsedSeconds / share) * (1 - share);
}

function sentenceFor(error: unknown): string {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ENOSPC') return 'The disk is full. Free some space, then try again.';
  if (code === 'ENOENT') return 'A file that is needed has vanished. Bring it in again.';
  return 'This did not work after several tries. The log of the worker says more.';
}
