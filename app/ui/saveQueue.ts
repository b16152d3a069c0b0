import { setAway } from './connection';
import type { SaveState } from './SaveMark';

/** How a document's changes reach the server, and what becomes of the answers. */
export interface SavePort<T> {
  send(change: T): Promise<Response>;
  /** An answer that settles a change: it was saved, or it cannot be. */
  settle(answer: Response, change: T): Promise<void>;
}

export type Keep = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;

const waitMilliseconds = 1500;
/** Bodies up to this size are still sent when the page closes; browsers allow 64 KB for all of them together. */
const closingBytes = 16_000;

/** Posts JSON; what is small is delivered even if the page closes meanwhile. */
export function postJson(address: string, body: unknown): Promise<Response> {
  const text = JSON.stringify(body);
  return fetch(address, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: text,
    keepalive: new TextEncoder().encode(text).length <= closingBytes,
  });
}

/** An answer with all of its body; null when that breaks off, as it does when the page goes: then nothing is known of it. */
async function received(answer: Response): Promise<Response | null> {
  const body = await answer.text().catch(() => null);
  if (body === null) return null;
  return new Response(body || null, { status: answer.status, statusText: answer.statusText, headers: answer.headers });
}

/** A change on which the server fails so often in a row is given up, so that what waits behind it is saved. */
const mostFaults = 8;
/** Whether trying again could help: the server is away, busy, or wants to know who asks. */
const tryAgain = (status: number): boolean => status >= 500 || [401, 408, 425, 429].includes(status);

/**
 * Changes of one document that wait to be saved: sent in order, one at a time, again while the server is away, and kept
 * in the browser until the server has answered, so that neither a reload nor a closed tab loses one. A queue outlives the
 * screen that filled it.
 */
export class SaveQueue<T> {
  private changes: T[];
  private sending = false;
  private listeners = new Set<() => void>();
  private port: SavePort<T> | null = null;
  state: SaveState = 'saved';
  /** When the last change was settled, in milliseconds; what was loaded shortly before may not show it. */
  settledAt = -Infinity;

  /**
   * @param key of what is kept
   * @param keep where it is kept
   * @param onFull hears that the browser has no room to keep what waits
   * @param pause between two tries
   */
  constructor(
    private readonly key: string,
    private readonly keep: Keep,
    private readonly onFull: () => void = () => undefined,
    private readonly pause = () => new Promise<void>((wake) => setTimeout(wake, waitMilliseconds)),
  ) {
    this.changes = this.kept();
  }

  /** What was not confirmed yet, oldest first; the first may be on its way. */
  get waiting(): readonly T[] {
    return this.changes;
  }

  /** From now on changes go this way; what was left from before is sent. */
  connect(port: SavePort<T>): void {
    this.port = port;
    void this.run();
  }

  subscribe(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  /** @param replaces a waiting change that is void now; one that is on its way stays */
  add(change: T, replaces: (waiting: T) => boolean = () => false): void {
    const at = this.changes.findLastIndex((each, index) => replaces(each) && (index > 0 || !this.sending));
    if (at >= 0) this.changes[at] = change;
    else this.changes.push(change);
    this.store();
    void this.run();
  }

  /** Forgets waiting changes, but not the one that is on its way. */
  drop(which: (waiting: T) => boolean = () => true): void {
    this.changes = this.changes.filter((each, index) => (index === 0 && this.sending) || !which(each));
    this.store();
  }

  private async run(): Promise<void> {
    if (this.sending || !this.port) return;
    this.sending = true;
    let faults = 0;
    for (let first = this.changes[0]; first !== undefined; first = this.changes[0]) {
      if (this.state !== 'away') this.say('saving');
      const answer = await this.port.send(first).then(received, () => null);
      faults = answer?.status === 500 ? faults + 1 : 0;
      if (!answer || (tryAgain(answer.status) && faults < mostFaults)) {
        setAway(true);
        this.say('away');
        await this.pause();
        continue;
      }
      setAway(false);
      faults = 0;
      // Until the answer is dealt with the change counts as one on its way.
      await this.port.settle(answer, first).catch(() => undefined);
      this.changes.shift();
      this.settledAt = Date.now();
      this.store();
      this.say('saving');
    }
    this.sending = false;
    this.say('saved');
  }

  private say(state: SaveState): void {
    if (state === this.state) return;
    this.state = state;
    for (const listener of this.listeners) listener();
  }

  private kept(): T[] {
    try {
      const list = JSON.parse(this.keep.getItem(this.key) ?? '[]') as unknown;
      return Array.isArray(list) ? (list as T[]) : [];
    } catch {
      return [];
    }
  }

  private store(): void {
    try {
      if (this.changes.length) this.keep.setItem(this.key, JSON.stringify(this.changes));
      else this.keep.removeItem(this.key);
    } catch {
      this.onFull();
    }
  }
}

/** What was loaded less than this after a change was settled may be from before it. */
const staleMilliseconds = 5000;
/** Whether a screen that opens now must load once more to show what its queue saved meanwhile. */
export const mayBeStale = ({ settledAt }: Pick<SaveQueue<unknown>, 'settledAt'>): boolean =>
  Date.now() - settledAt < staleMilliseconds;

const queues = new Map<string, SaveQueue<unknown>>();

/** The queue of a document in this window; always the same one for the same key. */
export function saveQueue<T>(key: string, onFull: () => void): SaveQueue<T> {
  let queue = queues.get(key);
  if (!queue) queues.set(key, (queue = new SaveQueue<unknown>(key, localStorage, onFull)));
  return queue as SaveQueue<T>;
}
