import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';

export interface ThreadCall {
  id: number;
  name: string;
  /** Plain data only: what a structured clone keeps. */
  given: unknown[];
}
export interface ThreadAnswer {
  id: number;
  value?: unknown;
  fault?: { name: string; message: string; code?: string; stack?: string };
}

interface Waiting {
  resolve(value: unknown): void;
  reject(error: Error): void;
}
interface Thread {
  worker: Worker;
  waiting: Map<number, Waiting>;
}

/** The source itself: whoever bundles the web server leaves it where it is. Both run in the project's folder. */
const source = () => join(process.cwd(), 'usecases/threads/start.mjs');
/** Beside the web server's own; more would take from what the worker needs. */
const most = Math.min(2, availableParallelism());

/** A fault of a thread as one of this thread. */
function faultFrom({ name, message, code, stack }: NonNullable<ThreadAnswer['fault']>): Error {
  const error: NodeJS.ErrnoException = new Error(message);
  error.name = name;
  if (code !== undefined) error.code = code;
  if (stack !== undefined) error.stack = stack;
  return error;
}

/**
 * Threads that are opened when they are first needed and kept. A call goes to the one that has the least to do; a thread
 * that ends is replaced at the next call, and what it was doing fails.
 */
export class Threads {
  private readonly threads = new Set<Thread>();
  private calls = 0;

  constructor(
    private readonly file: () => string | URL = source,
    private readonly size = most,
  ) {}

  call(name: string, given: unknown[]): Promise<unknown> {
    const thread = this.leastBusy();
    const id = ++this.calls;
    return new Promise((resolve, reject) => {
      // What cannot be sent is refused at once, and nothing waits for it.
      thread.worker.postMessage({ id, name, given } satisfies ThreadCall);
      thread.waiting.set(id, { resolve, reject });
    });
  }

  /** Opens one thread before anybody waits for it. */
  warm(): void {
    if (this.threads.size === 0) this.open();
  }

  async close(): Promise<void> {
    await Promise.all([...this.threads].map(({ worker }) => worker.terminate()));
  }

  private leastBusy(): Thread {
    const [first = this.open()] = [...this.threads].sort((a, b) => a.waiting.size - b.waiting.size);
    return first.waiting.size > 0 && this.threads.size < this.size ? this.open() : first;
  }

  private open(): Thread {
    const worker = new Worker(this.file(), { execArgv: [] });
    const thread: Thread = { worker, waiting: new Map() };
    const lose = (error: Error) => {
      this.threads.delete(thread);
      for (const { reject } of thread.waiting.values()) reject(error);
      thread.waiting.clear();
    };
    worker.on('message', ({ id, value, fault }: ThreadAnswer) => {
      const waiting = thread.waiting.get(id);
      thread.waiting.delete(id);
      if (fault) waiting?.reject(faultFrom(fault));
      else waiting?.resolve(value);
    });
    worker.on('error', lose);
    worker.on('exit', () => lose(new Error('The thread that computed this has ended.')));
    // The server ends when it is asked to, whatever is being computed.
    worker.unref();
    this.threads.add(thread);
    return thread;
  }
}
