import { itemHeader } from './itemHeader';
import { Upload, defaultOptions, type PreviousUpload, type UploadOptions } from 'tus-js-client';

/** A file to bring in, and the name of the bin it goes to; an id where the bin is there already. */
export interface FileForBin {
  file: File;
  binId?: string | null;
  binName?: string | null;
}

export interface UploadLine {
  id: number;
  name: string;
  size: number;
  /** Bytes that have arrived. */
  sent: number;
  state: 'waiting' | 'sending' | 'stopped';
  /** A sentence when it is stopped. */
  problem: string | null;
}

/** Everything that is on its way, as one. */
export interface UploadTotal {
  files: number;
  arrived: number;
  bytes: number;
  sent: number;
  secondsLeft: number | null;
}

/** An upload that was broken off, by a reload for instance; what arrived of it is kept for a week. */
export interface BrokenOff {
  key: string;
  name: string;
  size: number;
  sent: number;
  address: string;
}

export interface UploadState {
  lines: readonly UploadLine[];
  /** Null while nothing is on its way. */
  total: UploadTotal | null;
  brokenOff: readonly BrokenOff[];
  /** Ids of the items that came of what has arrived. */
  arrived: ReadonlySet<string>;
}

type Start = (
  file: File,
  options: UploadOptions,
) => Pick<Upload, 'start' | 'abort' | 'findPreviousUploads' | 'resumeFromPreviousUpload'>;
type Kept = Pick<NonNullable<UploadOptions['urlStorage']>, 'findAllUploads' | 'removeUpload'>;
/** Bytes of an upload that the server has; null when it has nothing of it any more. */
type AskArrived = (address: string, forget: boolean) => Promise<number | null>;

const atOnce = 2;
/** The pace is that of the last so many milliseconds; nothing is said before the first ones have passed. */
const paceOver = 15_000;
const paceFrom = 2000;

/**
 * Resumable uploads of one project: a few at once, the rest in line. They go on while other places are looked at; what a
 * reload breaks off is listed and goes on when the file is chosen again.
 */
export class UploadQueue {
  private lines: UploadLine[] = [];
  private readonly files = new Map<number, FileForBin>();
  private readonly running = new Map<number, ReturnType<Start>>();
  private readonly listeners = new Set<() => void>();
  private readonly arrivals = new Set<() => void>();
  private next = 0;
  /** What has arrived since something was on its way. */
  private done = { files: 0, bytes: 0 };
  private samples: { at: number; sent: number }[] = [];
  /** What was there from an earlier try, which says nothing of the pace. */
  private already = 0;
  private readonly heardOf = new Set<number>();
  private broken: readonly BrokenOff[] = [];
  private arrived: ReadonlySet<string> = new Set();
  private now: UploadState = { lines: [], total: null, brokenOff: [], arrived: this.arrived };

  constructor(
    private readonly projectId: string,
    private readonly start: Start = (file, options) => new Upload(file, options),
    private readonly kept: Kept | undefined = defaultOptions.urlStorage,
    private readonly askArrived: AskArrived = askServer,
    private readonly clock: () => number = Date.now,
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
  /** Called whenever a file has arrived. */
  readonly onArrival = (listener: () => void): (() => void) => {
    this.arrivals.add(listener);
    return () => void this.arrivals.delete(listener);
  };
  readonly state = (): UploadState => this.now;

  add(files: readonly FileForBin[]): void {
    if (!this.now.total) {
      this.done = { files: 0, bytes: 0 };
      this.samples = [];
      this.already = 0;
    }
    for (const each of files) {
      const { file } = each;
      const empty = file.size === 0;
      const id = this.next++;
      this.files.set(id, each);
      this.lines.push({
        id,
        name: file.name,
        size: file.size,
        sent: 0,
        state: empty ? 'stopped' : 'waiting',
        problem: empty ? 'The file is empty. Copy it from the camera again.' : null,
      });
      this.broken = this.broken.filter((broken) => broken.name !== file.name || broken.size !== file.size);
    }
    this.advance();
  }

  /** Ends an upload and throws away what arrived of it. */
  cancel(id: number): void {
    const upload = this.running.get(id);
    void upload?.abort(true).catch(() => undefined);
    this.remove(id);
    this.samples = [];
    this.advance();
  }

  cancelAll(): void {
    for (const { id, state } of [...this.lines]) if (state !== 'stopped') this.cancel(id);
  }

  /** Looks for what was broken off earlier. */
  async findBrokenOff(): Promise<void> {
    const previous = (await this.kept?.findAllUploads()) ?? [];
    const found: BrokenOff[] = [];
    for (const each of previous) {
      const { metadata, size, uploadUrl: address } = each;
      const isHere = this.lines.some((line) => line.name === metadata.filename && line.size === size);
      if (metadata.projectId !== this.projectId || size === null || !address || isHere) continue;
      const sent = await this.askArrived(address, false).catch(() => undefined);
      if (sent === null) await this.kept?.removeUpload(keyOf(each));
      else if (sent !== undefined && sent < size)
        found.push({ key: keyOf(each), name: metadata.filename ?? '', size, sent, address });
    }
    this.broken = found;
    this.tell();
  }

  /** Throws away what arrived of a broken one. */
  async forget({ key, address }: BrokenOff): Promise<void> {
    this.broken = this.broken.filter((each) => each.key !== key);
    this.tell();
    await this.kept?.removeUpload(key);
    await this.askArrived(address, true).catch(() => undefined);
  }

  private advance(): void {
    for (const line of this.lines) {
      if (this.running.size >= atOnce) break;
      if (line.state === 'waiting') this.send(line.id);
    }
    this.tell();
  }

  private send(id: number): void {
    const { file, binId, binName } = this.files.get(id)!;
    const upload = this.start(file, {
      endpoint: '/upload',
      retryDelays: [0, 1000, 3000, 5000, 10_000, 20_000],
      chunkSize: 32 * 1024 * 1024,
      removeFingerprintOnSuccess: true,
      metadata: {
        filename: file.name,
        projectId: this.projectId,
        ...(binId ? { binId } : {}),
        ...(binName ? { binName } : {}),
      },
      onProgress: (sent) => {
        if (!this.heardOf.has(id)) this.already += sent;
        this.heardOf.add(id);
        this.change(id, { sent });
      },
      onSuccess: (...[payload]: Partial<Parameters<NonNullable<UploadOptions['onSuccess']>>>) => {
        const item = payload?.lastResponse.getHeader(itemHeader);
        if (item) this.arrived = new Set([...this.arrived, item]);
        this.done = { files: this.done.files + 1, bytes: this.done.bytes + file.size };
        this.remove(id);
        for (const listener of this.arrivals) listener();
        this.advance();
      },
      onError: (error) => {
        this.running.delete(id);
        const { originalResponse: answer } = error as {
          originalResponse?: { getStatus(): number; getBody(): string } | null;
        };
        this.change(id, {
          state: 'stopped',
          problem: answer
            ? answer.getBody() || 'The server refused this file.'
            : 'The server cannot be reached. Choose the file again later; what was sent is kept.',
        });
        this.advance();
      },
    });
    this.running.set(id, upload);
    this.lines = this.lines.map((line) => (line.id === id ? { ...line, state: 'sending' } : line));
    void upload.findPreviousUploads().then((previous) => {
      if (!this.running.has(id)) return;
      if (previous[0]) upload.resumeFromPreviousUpload(previous[0]);
      upload.start();
    });
  }

  private change(id: number, values: Partial<UploadLine>): void {
    this.lines = this.lines.map((line) => (line.id === id ? { ...line, ...values } : line));
    this.tell();
  }

  private remove(id: number): void {
    this.running.delete(id);
    this.files.delete(id);
    this.lines = this.lines.filter((line) => line.id !== id);
  }

  private tell(): void {
    this.now = { lines: this.lines.slice(), total: this.sum(), brokenOff: this.broken, arrived: this.arrived };
    for (const listener of this.listeners) listener();
  }

  private sum(): UploadTotal | null {
    const onTheWay = this.lines.filter((line) => line.state !== 'stopped');
    if (onTheWay.length === 0) return null;
    const bytes = this.done.bytes + onTheWay.reduce((all, line) => all + line.size, 0);
    const sent = this.done.bytes + onTheWay.reduce((all, line) => all + line.sent, 0);
    const at = this.clock();
    const last = this.samples.at(-1);
    if (!last || at - last.at >= 250) this.samples.push({ at, sent: sent - this.already });
    while (this.samples.length > 2 && at - this.samples[0]!.at > paceOver) this.samples.shift();
    const first = this.samples[0]!;
    const pace = at - first.at >= paceFrom ? (sent - this.already - first.sent) / (at - first.at) : 0;
    return {
      files: this.done.files + onTheWay.length,
      arrived: this.done.files,
      bytes,
      sent,
      secondsLeft: pace > 0 ? (bytes - sent) / pace / 1000 : null,
    };
  }
}

const keyOf = (upload: PreviousUpload): string => upload.urlStorageKey;

async function askServer(address: string, forget: boolean): Promise<number | null> {
  const answer = await fetch(address, {
    method: forget ? 'DELETE' : 'HEAD',
    headers: { 'Tus-Resumable': '1.0.0' },
  });
  if (answer.status === 404 || answer.status === 410) return null;
  if (!answer.ok) throw new Error(`The server answered ${answer.status}`);
  return Number(answer.headers.get('Upload-Offset') ?? 0);
}

const queues = new Map<string, UploadQueue>();
/** The queue of a project; one for the whole page, so that it outlives every screen. */
export function uploadsOf(projectId: string): UploadQueue {
  const known = queues.get(projectId) ?? new UploadQueue(projectId);
  queues.set(projectId, known);
  return known;
}
