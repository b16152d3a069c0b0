import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { createServer, connect, type Server, type Socket } from 'node:net';
import { join } from 'node:path';

/** Whether hosts can have a network namespace each: that takes root, and a kernel that lets one. */
const canHaveNamespaces = (): boolean => {
  try {
    execFileSync('unshare', ['--net', 'ip', 'link', 'set', 'lo', 'up'], { stdio: 'ignore' });
    return process.env.SCALE_ADDRESSES !== 'yes';
  } catch {
    return false;
  }
};
export const networkKind = canHaveNamespaces() ? 'namespaces' : 'addresses';

const ip = (...args: string[]) => execFileSync('ip', args, { stdio: ['ignore', 'ignore', 'inherit'] });
let hosts = 0;

/**
 * A machine: a network namespace at the end of a cable of its own, or, where there are none, an address of loopback with a
 * line that can be cut. It reaches nothing but the ports that are passed on to it.
 */
export class Host {
  private readonly number = ++hosts;
  private readonly cable = `reel${this.number}`;
  /** Whose namespace it is; ends with it. */
  private holder: ChildProcess | null = null;
  private readonly servers: Server[] = [];
  private readonly sockets = new Set<Socket>();
  private readonly programs = new Map<string, ChildProcess>();
  private isCut = false;
  private isOver = false;

  constructor(
    readonly name: string,
    private readonly logs: string,
  ) {}

  /** The address at which it reaches what is passed on to it. */
  get gate(): string {
    return networkKind === 'namespaces' ? `10.83.${this.number}.1` : `127.0.83.${this.number}`;
  }

  async open(): Promise<this> {
    process.once('exit', () => this.killAll());
    if (networkKind === 'addresses') return this;
    this.holder = spawn('unshare', ['--net', 'sleep', 'infinity'], { stdio: 'ignore' });
    // Its namespace is there when it has become what it waits as.
    while (
      !execFileSync('readlink', [`/proc/${this.holder.pid}/exe`])
        .toString()
        .includes('sleep')
    )
      await new Promise((wake) => setTimeout(wake, 20));
    ip('link', 'add', this.cable, 'type', 'veth', 'peer', 'name', 'eth0', 'netns', String(this.holder.pid));
    ip('address', 'add', `${this.gate}/24`, 'dev', this.cable);
    ip('link', 'set', this.cable, 'up');
    for (const args of [
      ['link', 'set', 'lo', 'up'],
      ['address', 'add', `10.83.${this.number}.2/24`, 'dev', 'eth0'],
      ['link', 'set', 'eth0', 'up'],
    ])
      execFileSync('nsenter', ['-t', String(this.holder.pid), '-n', 'ip', ...args]);
    return this;
  }

  /** Passes a port of this machine on to the host. @returns the port there */
  async passOn(port: number): Promise<number> {
    const server = createServer((near) => {
      const far = connect(port, '127.0.0.1');
      for (const [from, to] of [
        [near, far],
        [far, near],
      ] as const) {
        this.sockets.add(from);
        from.on('error', () => to.destroy());
        from.on('close', () => {
          this.sockets.delete(from);
          to.destroy();
        });
        from.pipe(to);
        if (this.isCut) from.pause();
      }
    }).listen(0, this.gate);
    await once(server, 'listening');
    this.servers.push(server);
    return (server.address() as { port: number }).port;
  }

  /** Nothing gets through any more, and nobody is told. */
  cut(): void {
    this.isCut = true;
    if (networkKind === 'namespaces') ip('link', 'set', this.cable, 'down');
    else for (const socket of this.sockets) socket.pause();
  }

  mend(): void {
    this.isCut = false;
    if (networkKind === 'namespaces') ip('link', 'set', this.cable, 'up');
    else for (const socket of this.sockets) socket.resume();
  }

  private inside(args: readonly string[]): [string, string[]] {
    const [program, ...rest] = this.holder ? ['nsenter', '-t', String(this.holder.pid), '-n', ...args] : args;
    return [program!, rest];
  }

  /** Runs a program there to its end. @returns what it printed */
  async ask(args: readonly string[], env: NodeJS.ProcessEnv): Promise<string> {
    const child = spawn(...this.inside(args), { env, stdio: ['ignore', 'pipe', 'inherit'] });
    let printed = '';
    for await (const chunk of child.stdout) printed += String(chunk);
    return printed;
  }

  /** Keeps a program running there, as whoever supervises a machine would. */
  keep(name: string, args: readonly string[], env: NodeJS.ProcessEnv): void {
    const child = spawn(...this.inside(args), { env, stdio: ['ignore', 'pipe', 'pipe'] });
    const log = createWriteStream(join(this.logs, `${this.name}-${name}.log`), { flags: 'a' });
    child.stdout.pipe(log, { end: false });
    child.stderr.pipe(log, { end: false });
    this.programs.set(name, child);
    child.once('close', () => {
      log.end();
      if (!this.isOver) setTimeout(() => !this.isOver && this.keep(name, args, env), 1000);
    });
  }

  pidOf = (name: string): number => this.programs.get(name)?.pid ?? 0;

  /** Without a word, as when the plug is pulled. */
  kill(name: string): void {
    this.programs.get(name)?.kill('SIGKILL');
  }

  async close(): Promise<void> {
    this.isOver = true;
    const ends = [...this.programs.values()].filter((child) => child.exitCode === null && child.signalCode === null);
    const ended = ends.map((child) => once(child, 'close'));
    this.killAll();
    await Promise.all(ended);
    for (const server of this.servers) server.close();
    for (const socket of this.sockets) socket.destroy();
  }

  private killAll(): void {
    this.isOver = true;
    for (const child of this.programs.values()) child.kill('SIGKILL');
    this.holder?.kill('SIGKILL');
  }
}
