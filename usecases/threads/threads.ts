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
  call: ThreadCall;
  resolve(value: unknown): void;
  reject(error: Error): void;
}
interface Thread {
  worker: Worker;
  /** What it was sent and has not answered. */
  waiting: Map<number, Waiting>;
}

/** A call whose caller has gone before it began; nobody hears of it. */
class CallerGone extends Error {
  override name = 'AbortError';
}

/** The source itself: whoever bundles the web server leaves it where it is. Both run in the project's folder. */
const source = () => join(process.cwd(), 'usecases/threads/start.mjs');
/** Beside the web server's own; more would take from what the worker needs. */
const most = Math.min(2, availableParallelism());
/** What a thread has at once: calls wait for the database while others compute, and few are worth nothing to nobody. */
const mostEach = 4;

/** A fault of a thread as one of this thread. */
function faultFrom({ name, message, code, stack }: NonNullable<ThreadAnswer['fault']>): Error {
  const error: NodeJS.ErrnoException = new Error(message);
  error.name = name;
  if (code !== undefined) error.code = code;
  if (stack !== undefined) error.stack = stack;
  return error;
}

/**
 * Threads that are opened when they are first needed and kept. A call goes to the one that has the least to do, and waits
 * while all have enough; a caller who goes away meanwhile is forgotten. A thread that ends is replaced at the next call,
 * and what it was doing fails.
 */
export class Threads {
  private readonly threads = new Set<Thread>();
  private queue: Waiting[] = [];
  private calls = 0;

  constructor(
    private readonly file: () => string | URL = source,
    private readonly size = most,
  ) {}

  /** @param gone of a caller who may lose interest; what has begun is computed to its end */
  call(name: string, given: unknown[], gone?: AbortSignal): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const waiting = { call: { id: ++this.calls, name, given }, resolve, reject };
      const drop = () => {
        if (!this.queue.includes(waiting)) return;
        this.queue = this.queue.filter((each) => each !== waiting);
        reject(new CallerGone('Whoever asked for this has gone.'));
      };
      this.queue.push(waiting);
      gone?.addEventListener('abort', drop, { once: true });
      if (gone?.aborted) drop();
      this.goOn();
    });
  }

  /** Hands out what waits, as far as threads take it. */
  private goOn(): void {
    while (this.queue.length > 0) {
      const thread = this.leastBusy();
      if (thread.waiting.size >= mostEach) return;
      const waiting = this.queue.shift()!;
      try {
        thread.worker.postMessage(waiting.call);
        thread.waiting.set(waiting.call.id, waiting);
      } catch (error) {
        // What cannot be sent is refused at once, and nothing waits for it.
        waiting.reject(error as Error);
      }
    }
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
      this.goOn();
    };
    worker.on('message', ({ id, value, fault }: ThreadAnswer) => {
      const waiting = thread.waiting.get(id);
      thread.waiting.delete(id);
      if (fault) waiting?.reject(faultFrom(fault));
      else waiting?.resolve(value);
      this.goOn();
    });
    worker.on('error', lose);
    worker.on('exit', () => lose(new Error('The thread that computed this has ended.')));
    // The server ends when it is asked to, whatever is being computed.
    worker.unref();
    this.threads.add(thread);
    return thread;
  }
}
