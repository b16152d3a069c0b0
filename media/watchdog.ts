import type { ChildProcess } from 'node:child_process';
import type { Readable } from 'node:stream';
import { MediaError, stoppedSentence } from './process';
import { stallSeconds } from './startProgram';

/** Ends processes that give no sign of life any more. */
export class Watchdog {
  private last = Date.now();
  private bitten = false;
  private readonly timer: NodeJS.Timeout;

  /** @param limitSeconds without `touch` before the processes are ended */
  constructor(
    private readonly children: readonly ChildProcess[],
    private readonly limitSeconds = stallSeconds(),
  ) {
    this.timer = setInterval(() => this.look(), Math.min(5000, limitSeconds * 250));
    this.timer.unref();
  }

  /** A sign of life. */
  touch = (): void => void (this.last = Date.now());

  /** Every chunk of a pipe is a sign of life; whoever reads it reads it as before. */
  watch(pipe: Readable | null | undefined): void {
    const push = pipe?.push.bind(pipe);
    if (!pipe || !push) return;
    pipe.push = (...args) => {
      this.touch();
      return push(...args);
    };
  }

  stop(): void {
    clearInterval(this.timer);
  }

  /** @throws MediaError when the processes were ended for want of progress */
  check(what: string): void {
    if (this.bitten) throw new MediaError(stoppedSentence(what, 'still', this.limitSeconds));
  }

  private look(): void {
    if (Date.now() - this.last < this.limitSeconds * 1000) return;
    this.bitten = true;
    this.stop();
    for (const child of this.children) child.kill('SIGKILL');
  }
}
