import { Cancelled, MediaError } from '#media/process';
import { beat, endTask, saySentence, startTask, type Task } from '#data/tasks';

const beatSeconds = 1;

export interface Work {
  task: Task;
  signal: AbortSignal;
  progress(share: number): void;
  /** A sentence that shows while the task goes on; screens look anew when it appears. */
  say(sentence: string): Promise<void>;
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
  // The pace is taken from the first progress on, so that what comes before it (opening nets, a rough pass) does not count.
  let first: { share: number; at: number } | null = null;
  const progress = (now: number) => {
    share = now;
    if (now > 0.005) first ??= { share: now, at: Date.now() };
  };
  const timer = setInterval(() => {
    const left = first && timeLeft(share - first.share, (Date.now() - first.at) / 1000, 1 - share);
    beat(taskId, share, left).then(
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
    const sentence = await work({ task, signal: abort.signal, progress, say: (sentence) => saySentence(taskId, sentence) });
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

/**
 * From the pace so far; nothing is said before there is a pace.
 * @param done share done in `seconds`, `left` share still to do
 */
export function timeLeft(done: number, seconds: number, left: number): number | null {
  return done < 0.02 || seconds < 1.5 ? null : (seconds / done) * left;
}

function sentenceFor(error: unknown): string {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ENOSPC') return 'The disk is full. Free some space, then try again.';
  if (code === 'ENOENT') return 'A file that is needed has vanished. Bring it in again.';
  return 'This did not work after several tries. The log of the worker says more.';
}
