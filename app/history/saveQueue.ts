import { toast } from 'sonner';
import { awayBy, setAway } from '../ui/connection';
import type { SaveState } from '../ui/SaveMark';
import { BrowserShelf, type Kept, type Shelf } from './shelf';

/** How a document's changes reach the server, and what becomes of the answers. */
export interface SavePort<T> {
  send(change: T): Promise<Response>;
  /** An answer that settles a change: it was saved, or it cannot be. */
  settle(answer: Response, change: T): Promise<void>;
}

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

/** An order for the next change that is kept: later than all before, on this page and on others. */
let lastOrder = 0;
const nextOrder = (): number => (lastOrder = Math.max(lastOrder + 1e-3, Date.now()));

/**
 * Changes of one document that wait to be saved: sent in order, one at a time, again while the server is away, and kept
 * in the browser until the server has answered, so that neither a reload nor a closed tab loses one. A queue outlives the
 * screen that filled it.
 */
export class SaveQueue<T> {
  private kept: Kept<T>[] = [];
  private sending = false;
  private adopted = false;
  private listeners = new Set<() => void>();
  private port: SavePort<T> | null = null;
  private onLeft: (left: readonly T[]) => void = () => undefined;
  state: SaveState = 'saved';
  /** When the last change was settled, in milliseconds; what was loaded shortly before may not show it. */
  settledAt = -Infinity;
  /** Resolves once what earlier pages left is in the queue. */
  readonly ready: Promise<void>;

  /**
   * @param name of the queue, on the shelf
   * @param shelf where changes are kept
   * @param pause between two tries
   */
  constructor(
    private readonly name: string,
    private readonly shelf: Shelf,
    private readonly pause = () => new Promise<void>((wake) => setTimeout(wake, waitMilliseconds)),
  ) {
    const take = (left: readonly Kept[]) => {
      // What is on its way stays first.
      this.kept.splice(this.sending ? 1 : 0, 0, ...(left as Kept<T>[]));
      if (left.length) this.onLeft(left.map(({ change }) => change as T));
    };
    const late = (left: readonly Kept[]) => {
      take(left);
      void this.run();
    };
    this.ready = shelf.adopt(name, late).then(take, () => undefined);
    void this.ready.then(() => {
      this.adopted = true;
      void this.run();
    });
  }

  /** What was not confirmed yet, oldest first; the first may be on its way. */
  get waiting(): readonly T[] {
    return this.kept.map(({ change }) => change);
  }

  /** From now on changes go this way; what was left from before is sent first. */
  connect(port: SavePort<T>): void {
    this.port = port;
    void this.run();
  }

  /** The listener is given what an earlier page left, before any of it is sent. */
  whenLeft(listener: (left: readonly T[]) => void): void {
    this.onLeft = listener;
  }

  /** The listener hears of another state. */
  subscribe(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  /** Resolves once nothing waits. */
  whenSaved(): Promise<void> {
    if (this.kept.length === 0) return Promise.resolve();
    return new Promise((resolve) => {
      const stop = this.subscribe(() => {
        if (this.state !== 'saved') return;
        stop();
        resolve();
      });
    });
  }

  /** @param replaces a waiting change that is void now; one that is on its way stays */
  add(change: T, replaces: (waiting: T) => boolean = () => false): void {
    const at = this.kept.findLastIndex((each, index) => replaces(each.change) && (index > 0 || !this.sending));
    const kept = { queue: this.name, order: at >= 0 ? this.kept[at]!.order : nextOrder(), change };
    if (at >= 0) this.kept[at] = kept;
    else this.kept.push(kept);
    this.shelf.put(kept);
    void this.run();
  }

  /** Forgets waiting changes, but not the one that is on its way. */
  drop(which: (waiting: T) => boolean = () => true): void {
    const stays = (each: Kept<T>, index: number) => (index === 0 && this.sending) || !which(each.change);
    for (const each of this.kept.filter((own, index) => !stays(own, index))) this.shelf.remove(this.name, each.order);
    this.kept = this.kept.filter(stays);
  }

  private async run(): Promise<void> {
    if (this.sending || !this.port || !this.adopted) return;
    this.sending = true;
    let faults = 0;
    for (let first = this.kept[0]; first !== undefined; first = this.kept[0]) {
      if (this.state !== 'away') this.say('saving');
      const sent = this.port.send(first.change);
      // What was said with it, such as the version it goes on from, is said again after a reload.
      this.shelf.put(first);
      const answer = await sent.then(received, () => null);
      faults = answer?.status === 500 ? faults + 1 : 0;
      if (!answer || (tryAgain(answer.status) && faults < mostFaults)) {
        setAway((answer && awayBy(answer.status)) || true);
        this.say('away');
        await this.pause();
        continue;
      }
      setAway(false);
      faults = 0;
      // Until the answer is dealt with the change counts as one on its way.
      await this.port.settle(answer, first.change).catch(() => undefined);
      this.kept.shift();
      this.shelf.remove(this.name, first.order);
      this.settledAt = Date.now();
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
}

/** What was loaded less than this after a change was settled may be from before it. */
const staleMilliseconds = 5000;
/** Whether a screen that opens now must load once more to show what its queue saved meanwhile. */
export const mayBeStale = ({ settledAt }: Pick<SaveQueue<unknown>, 'settledAt'>): boolean =>
  Date.now() - settledAt < staleMilliseconds;

const sayFull = () =>
  void toast.warning(
    'The browser has no room to keep what is not saved yet. Leave this page open until it says “Saved”.',
    { id: 'unkept' },
  );
let shelf: Shelf | null = null;
const queues = new Map<string, SaveQueue<unknown>>();

/** The queue of a document in this window; always the same one for the same name. */
export function saveQueue<T>(name: string): SaveQueue<T> {
  shelf ??= new BrowserShelf(sayFull);
  let queue = queues.get(name);
  if (!queue) queues.set(name, (queue = new SaveQueue<unknown>(name, shelf)));
  return queue as SaveQueue<T>;
}

/** How many changes of this page are not saved yet. */
export const countWaiting = (): number => [...queues.values()].reduce((sum, { waiting }) => sum + waiting.length, 0);
const anyWaits = (): boolean => countWaiting() > 0;
/** Milliseconds after which it is said what is waited for. */
const sayAfter = 800;

/** Does something of which the server makes a file, or a copy, once all is saved: what is seen is what is made. */
export async function afterSaving(act: () => void): Promise<void> {
  if (!anyWaits()) return act();
  const said = setTimeout(() => toast('Waiting until your changes are saved…', { id: 'saving-first' }), sayAfter);
  while (anyWaits()) await Promise.all([...queues.values()].map((queue) => queue.whenSaved()));
  clearTimeout(said);
  act();
}
