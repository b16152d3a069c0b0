import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { settings } from '#settings';

/** The source itself, as for the threads of the web server. */
const source = () => join(process.cwd(), 'usecases/background/pulseThread.mjs');
const beatMilliseconds = 1000;
/** A process that was not seen between two things for so long is stuck, not busy. */
const patienceMilliseconds = 600_000;

let thread: Worker | null = null;

function open(): Worker {
  const last = new SharedArrayBuffer(8);
  const seen = new BigInt64Array(last);
  const see = () => Atomics.store(seen, 0, BigInt(Date.now()));
  see();
  setInterval(see, beatMilliseconds).unref();
  const url = settings().DATABASE_URL;
  const opened = new Worker(source(), {
    execArgv: [],
    workerData: { url, beatMilliseconds, patienceMilliseconds, last },
  });
  // Without it the heartbeats of the process itself remain.
  opened.on('error', () => (thread = null));
  opened.on('exit', () => (thread = null));
  opened.unref();
  return opened;
}

/**
 * Keeps a run of a task alive from a thread of its own, so that whatever this process computes meanwhile, no other takes
 * the task up.
 * @returns ends it
 */
export function keepAlive(task: string, run: string): () => void {
  thread ??= open();
  thread.postMessage({ task, run });
  return () => thread?.postMessage({ task, run: null });
}
