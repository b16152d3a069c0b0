import { setTimeout as sleep } from 'node:timers/promises';
import { settings } from '#settings';
import { databaseAnswers } from '#data/db';
import {
  askForHelp,
  beatStretch,
  forgetStretch,
  letGoOfStretch,
  madeStretches,
  noteMade,
  takeStretch,
} from '#data/renderStretches';
import { isInBucket, storage, stretchPlace } from '#data/storage';
import { Cancelled } from '#media/process';
import type { StretchShare } from '#media/render/renderCall';
import { copyFile } from 'node:fs/promises';

const beatMilliseconds = 1000;
/** So often workers that came meanwhile are asked for help. */
const askMilliseconds = 2000;
/** With fewer stretches than that left, who helps would come too late. */
const worthHelp = 2;

/** The part of one run in a film that several workers make. What the database is needed for waits while it is away. */
export class RenderShare implements StretchShare {
  private taken: { name: string; unwanted: AbortController; timer: NodeJS.Timeout } | null = null;
  private askedAt = 0;
  private left = 0;
  private others = 0;

  /** @param leads whether this run joins the film; it asks others for help then */
  constructor(
    private readonly render: { id: string; format: string },
    private readonly run: string,
    private readonly leads: boolean,
    private readonly signal: AbortSignal,
  ) {}

  made(names: readonly string[]): Promise<void> {
    return this.patiently(() => noteMade(this.render.id, names, this.run));
  }

  whichAreMade(names: readonly string[]): Promise<ReadonlySet<string>> {
    return this.patiently(() => madeStretches(this.render.id, names));
  }

  async take(names: readonly string[]): Promise<string | null> {
    this.left = names.length;
    await this.ask();
    const { BRIGHT_REEL_STALE_SECONDS: stale } = settings();
    const name = await this.patiently(() => takeStretch(this.render.id, names, this.run, stale));
    if (name === null) return null;
    const unwanted = new AbortController();
    const beat = async () => {
      if (!(await beatStretch(this.render.id, name, this.run))) unwanted.abort();
      await this.ask();
    };
    this.taken = { name, unwanted, timer: setInterval(() => void beat().catch(() => undefined), beatMilliseconds) };
    return name;
  }

  unwanted(name: string): AbortSignal {
    return this.taken?.name === name ? this.taken.unwanted.signal : AbortSignal.abort();
  }

  async letGo(name: string): Promise<void> {
    this.settle();
    await letGoOfStretch(this.render.id, name, this.run).catch(() => undefined);
  }

  async give(name: string, file: string, byHelper: boolean): Promise<void> {
    try {
      // In a bucket it is there for whoever goes on when this worker is no more.
      if (byHelper || (isInBucket() && this.others > 0))
        await this.patiently(() => storage().adopt(this.keyOf(name), file, { copy: !byHelper }));
      await this.made([name]);
    } finally {
      this.settle();
    }
  }

  async fetch(name: string, to: string): Promise<boolean> {
    const key = this.keyOf(name);
    if ((await storage().size(key)) === null) {
      await this.patiently(() => forgetStretch(this.render.id, name));
      return false;
    }
    await copyFile(await storage().localPath(key), to);
    return true;
  }

  /** What is at work when it ends has nothing left to do. */
  settle(): void {
    clearInterval(this.taken?.timer);
    this.taken = null;
  }

  private keyOf = (name: string): string => stretchPlace(this.render.id, `${name}.${this.render.format}`);

  private async ask(): Promise<void> {
    if (!this.leads || this.left < worthHelp || Date.now() - this.askedAt < askMilliseconds) return;
    this.askedAt = Date.now();
    this.others = await askForHelp(this.render.id, this.left - 1, this.run).catch(() => this.others);
  }

  private async patiently<T>(work: () => Promise<T>): Promise<T> {
    for (;;) {
      try {
        return await work();
      } catch (error) {
        if (this.signal.aborted) throw new Cancelled();
        if (await databaseAnswers()) throw error;
        await sleep(beatMilliseconds, undefined, { signal: this.signal }).catch(() => undefined);
      }
    }
  }
}
