import { AsyncLocalStorage } from 'node:async_hooks';
import { createHash, randomUUID } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { lock } from 'proper-lockfile';

/** What lies in a cache is held for whoever is at work with it; each file once. */
const holders = new AsyncLocalStorage<Map<string, () => Promise<void>>>();

/** Keeps whatever is taken from a cache meanwhile in it, until the work is done. */
export async function holdingFiles<T>(work: () => Promise<T>): Promise<T> {
  const held = new Map<string, () => Promise<void>>();
  try {
    return await holders.run(held, work);
  } finally {
    for (const letGo of held.values()) await letGo();
  }
}

/** Outside such work a file is held for so long: for one look at it. */
const looksMilliseconds = 10 * 60_000;
/** So long a file waits for others to be let go. */
const patienceMilliseconds = 30 * 60_000;
const pauseMilliseconds = 500;
/** What nothing was written to for so long is not on its way any more. */
const silentMilliseconds = 5 * 60_000;
/** A lock whose owner was not heard of for so long is nobody's. */
const staleMilliseconds = 15_000;

/** Of a process, so that another with the same number later is not taken for it (proc(5), field 22). */
const beginningOf = (pid: number): string | null => {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'latin1').split(') ').at(-1)!.split(' ')[19]!;
  } catch {
    return null;
  }
};
const ownProcess = `${process.pid}-${beginningOf(process.pid)}`;
/** Whether the process that a name begins with is there still; names are as `ownProcess`, and whatever after a point. */
const isAlive = (name: string): boolean => {
  const [pid = '', beginning] = name.split('.')[0]!.split('-');
  return beginningOf(Number(pid)) === beginning;
};

interface Entry {
  folder: string;
  bytes: number;
  usedAt: number;
  isHeld: boolean;
}
type Turn = { kind: 'there' | 'fetch' } | { kind: 'wait' };

/**
 * Copies of files that lie elsewhere, for programs that want a file. Never takes more bytes than it may; what was used
 * longest ago goes first, and nothing that somebody is at work with. Several processes of a machine share one.
 *
 * Each file has a folder of its own: `size`, written before the first byte is, `content` once it is whole, and a name in
 * `held` for each who needs it.
 */
export class LocalCache {
  private readonly fetching = new Map<string, Promise<string>>();
  /** Threads of a process have a cache each. */
  private readonly self = `${ownProcess}.${randomUUID()}`;

  /** @param limit in bytes */
  constructor(
    readonly folder: string,
    readonly limit: number,
  ) {}

  /**
   * The path of a copy, which stays until whoever is at work lets go of it.
   * @param fetch writes the content to a path
   * @throws what `fetch` throws; an error with the code EFBIG for what is larger than the cache
   */
  async path(key: string, bytes: number, fetch: (to: string) => Promise<void>): Promise<string> {
    if (bytes > this.limit)
      throw Object.assign(
        new Error(
          `A file of ${bytes} bytes does not fit into the cache of this machine, which has ${this.limit}: BRIGHT_REEL_CACHE_BYTES.`,
        ),
        { code: 'EFBIG' },
      );
    const known = this.fetching.get(key);
    const coming = known ?? this.bring(key, bytes, fetch);
    if (!known) {
      this.fetching.set(key, coming);
      coming.finally(() => this.fetching.delete(key)).catch(() => undefined);
    }
    const path = await coming;
    await this.hold(key);
    // It went between the two: whoever brought it let go at once.
    return existsSync(path) ? path : this.path(key, bytes, fetch);
  }

  /** Takes in a file that was made here, if it fits without taking anything from anybody. */
  async take(key: string, file: string, bytes: number): Promise<void> {
    const turn = await this.locked(() => this.turnOf(key, bytes));
    if (turn.kind !== 'fetch') return void (await rm(file, { force: true }));
    await rename(file, this.contentOf(key)).catch(() => rm(file, { force: true }));
    await this.release(key);
  }

  async remove(key: string): Promise<void> {
    await this.locked(() => rm(this.entryOf(key), { recursive: true, force: true }));
  }

  /** Whether a whole copy is here now. */
  has(key: string): Promise<boolean> {
    return Promise.resolve(existsSync(this.contentOf(key)));
  }

  /** Bytes that are taken, or about to be. */
  async used(): Promise<number> {
    return (await this.entries()).reduce((sum, { bytes }) => sum + bytes, 0);
  }

  private entryOf = (key: string): string =>
    join(this.folder, createHash('sha256').update(key).digest('hex').slice(0, 40));
  private contentOf = (key: string): string => join(this.entryOf(key), basename(key));

  private async bring(key: string, bytes: number, fetch: (to: string) => Promise<void>): Promise<string> {
    const content = this.contentOf(key);
    for (const until = Date.now() + patienceMilliseconds; ; await sleep(pauseMilliseconds)) {
      const turn = await this.locked(() => this.turnOf(key, bytes));
      if (turn.kind === 'there') return content;
      if (turn.kind === 'wait') {
        if (Date.now() > until) throw new Error('The cache of this machine is full of files that are in use.');
        continue;
      }
      const part = join(this.entryOf(key), `${this.self}.part`);
      try {
        await fetch(part);
        await rename(part, content);
        return content;
      } catch (error) {
        await this.locked(() => rm(this.entryOf(key), { recursive: true, force: true }));
        throw error;
      } finally {
        await this.release(key);
      }
    }
  }

  /** Under the lock: whether it is there, is somebody else's to bring or to make room for, or ours to bring now. */
  private async turnOf(key: string, bytes: number): Promise<Turn> {
    const entry = this.entryOf(key);
    const held = join(entry, 'held');
    for (const name of await readdir(entry).catch(() => [] as string[])) {
      if (!name.endsWith('.part') || name.startsWith(this.self) || !isAlive(name)) continue;
      const writtenAt = (await stat(join(entry, name)).catch(() => null))?.mtimeMs ?? 0;
      if (Date.now() - writtenAt < silentMilliseconds) return { kind: 'wait' };
    }
    if (existsSync(this.contentOf(key))) {
      await writeFile(join(held, `${this.self}.bring`), '');
      const now = new Date();
      await utimes(join(entry, 'size'), now, now);
      return { kind: 'there' };
    }
    // What somebody began and did not end.
    await rm(entry, { recursive: true, force: true });
    if (!(await this.makeRoom(bytes))) return { kind: 'wait' };
    await mkdir(held, { recursive: true });
    await writeFile(join(entry, 'size'), String(bytes));
    await writeFile(join(entry, `${this.self}.part`), '');
    await writeFile(join(held, `${this.self}.bring`), '');
    return { kind: 'fetch' };
  }

  private release = (key: string) => rm(join(this.entryOf(key), 'held', `${this.self}.bring`), { force: true });

  private async hold(key: string): Promise<void> {
    const holder = holders.getStore();
    if (holder?.has(key)) return;
    const pin = join(this.entryOf(key), 'held', `${this.self}.${randomUUID()}`);
    const letGo = () => rm(pin, { force: true });
    await writeFile(pin, '').catch(() => undefined);
    if (holder) holder.set(key, letGo);
    else setTimeout(() => void letGo(), looksMilliseconds).unref();
  }

  private async entries(): Promise<Entry[]> {
    const names = await readdir(this.folder, { withFileTypes: true }).catch(() => []);
    return Promise.all(
      names
        .filter((name) => name.isDirectory() && !name.name.endsWith('.lock'))
        .map(async ({ name }) => {
          const folder = join(this.folder, name);
          const size = join(folder, 'size');
          const held = await readdir(join(folder, 'held')).catch(() => [] as string[]);
          return {
            folder,
            bytes: Number(await readFile(size, 'utf8').catch(() => '0')),
            usedAt: await stat(size).then(
              ({ mtimeMs }) => mtimeMs,
              () => 0,
            ),
            isHeld: held.some(isAlive),
          };
        }),
    );
  }

  /** @returns false when too much of it is in use */
  private async makeRoom(bytes: number): Promise<boolean> {
    const entries = await this.entries();
    let used = entries.reduce((sum, each) => sum + each.bytes, 0);
    const oldest = entries.filter(({ isHeld }) => !isHeld).sort((a, b) => a.usedAt - b.usedAt);
    const free = oldest.reduce((sum, each) => sum + each.bytes, 0);
    if (used - free + bytes > this.limit) return false;
    for (const { folder, bytes: own } of oldest) {
      if (used + bytes <= this.limit) break;
      await rm(folder, { recursive: true, force: true });
      used -= own;
    }
    return true;
  }

  private async locked<T>(work: () => Promise<T>): Promise<T> {
    await mkdir(this.folder, { recursive: true });
    const unlock = await lock(this.folder, {
      stale: staleMilliseconds,
      retries: { retries: 200, minTimeout: 20, maxTimeout: 250 },
    });
    try {
      return await work();
    } finally {
      await unlock().catch(() => undefined);
    }
  }
}
