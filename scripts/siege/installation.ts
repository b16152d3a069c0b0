import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream, existsSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

/** Parts of an installation that can be killed. */
export type Part = 'server' | 'worker' | 'database';

/** An installation under siege: web server, worker and stand-ins, each started again at once when it ends. */
export class Installation {
  readonly data = process.env.BRIGHT_REEL_DATA!;
  private readonly work = process.env.SIEGE_WORK!;
  private readonly as = (process.env.SIEGE_AS ?? '').split(' ').filter(Boolean);
  private readonly parts = new Map<string, ChildProcess>();
  private isOver = false;
  private port = 0;
  /** Asks for the password, though it listens on loopback: the address is written as one of the sixth version. */
  private lockedPort = 0;
  readonly password = 'besieged';
  private pool: pg.Pool | null = null;

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }
  get lockedUrl(): string {
    return `http://127.0.0.1:${this.lockedPort}`;
  }
  get workerPid(): number {
    return this.parts.get('worker')?.pid ?? 0;
  }

  async start(): Promise<void> {
    // However the siege ends, nothing of this stays.
    process.once('exit', () => [...this.parts.values()].forEach((child) => child.kill('SIGKILL')));
    [this.port, this.lockedPort] = [await freePort(), await freePort()];
    const standins = await freePort();
    process.env.BRIGHT_REEL_OUTLET_URL = `http://127.0.0.1:${standins}/outlet`;
    process.env.BRIGHT_REEL_ALLOWED_HOSTS = `127.0.0.1:${standins}`;
    this.keep('standins', ['standins/server.ts', String(standins), join(this.data, 'outlet'), 'demo/media'], {});
    this.keep('server', ['web/server.ts'], { PORT: String(this.port) });
    this.keep('locked', ['web/server.ts'], {
      PORT: String(this.lockedPort),
      HOST: '::ffff:127.0.0.1',
      BRIGHT_REEL_PASSWORD: this.password,
    });
    this.keep('worker', ['jobs/worker.ts'], {});
    await this.untilWell();
  }

  private keep(name: string, args: string[], env: Record<string, string>): void {
    const [program, ...rest] = [...this.as, process.execPath, '--import', 'tsx', ...args] as [string, ...string[]];
    const child = spawn(program, rest, { env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] });
    const log = createWriteStream(join(this.work, `${name}.log`), { flags: 'a' });
    child.stdout.pipe(log, { end: false });
    child.stderr.pipe(log, { end: false });
    this.parts.set(name, child);
    child.once('close', () => {
      log.end();
      if (!this.isOver) this.keep(name, args, env);
    });
  }

  /** Kills a part as a power cut would: without a word. */
  kill(part: Part): void {
    const pid =
      part === 'database'
        ? Number(readFileSync(process.env.SIEGE_POSTGRES!, 'utf8').split('\n')[0])
        : this.parts.get(part)?.pid;
    try {
      if (pid) process.kill(pid, 'SIGKILL');
    } catch {
      // It ended by itself a moment ago.
    }
  }

  /** Waits until the server answers and has its database. @returns seconds that it took */
  async untilWell(most = 60): Promise<number> {
    const began = Date.now();
    while (Date.now() - began < most * 1000) {
      const answer = await fetch(`${this.url}/ready`, { signal: AbortSignal.timeout(5000) }).catch(() => null);
      const locked = await fetch(`${this.lockedUrl}/ready`, { signal: AbortSignal.timeout(5000) }).catch(() => null);
      if (answer?.ok && locked?.ok) return (Date.now() - began) / 1000;
      await sleep(100);
    }
    throw new Error(`The installation did not come back within ${most} s.`);
  }

  /** Rows of its database; asked again while that comes back. */
  async rows<T extends object>(query: string, values: unknown[] = []): Promise<T[]> {
    for (let tries = 0; ; tries++) {
      if (!this.pool) {
        this.pool = new pg.Pool({ connectionString: process.env.DATABASE_URL!, max: 2, connectionTimeoutMillis: 3000 });
        this.pool.on('error', () => undefined);
      }
      try {
        return (await this.pool.query<T>(query, values)).rows;
      } catch (error) {
        if (tries > 30) throw error;
        await sleep(500);
      }
    }
  }

  /** What the log of the server says of a request that failed. */
  faultOf(request: string | null): string | null {
    const log = join(this.work, 'server.log');
    const line =
      request &&
      existsSync(log) &&
      readFileSync(log, 'utf8')
        .split('\n')
        .find((each) => each.includes(request));
    if (!line) return null;
    const { err } = JSON.parse(line) as { err?: { message?: string; stack?: string } };
    return err
      ? `${err.message}\n    ${(err.stack ?? '')
          .split('\n')
          .filter((at) => at.includes(' at '))
          .slice(0, 4)
          .join('\n    ')}`
      : null;
  }

  /** Last lines of the logs, for whoever wants to know why. */
  lastWords(lines = 12): string {
    return ['server', 'worker']
      .map((name) => join(this.work, `${name}.log`))
      .filter((log) => existsSync(log))
      .map((log) => readFileSync(log, 'utf8').trim().split('\n').slice(-lines).join('\n'))
      .join('\n');
  }

  async stop(): Promise<void> {
    this.isOver = true;
    await this.pool?.end();
    await Promise.all(
      [...this.parts.values()].map(async (child) => {
        child.kill('SIGKILL');
        if (child.exitCode === null && child.signalCode === null) await once(child, 'close');
      }),
    );
  }
}
