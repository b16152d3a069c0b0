import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterEach, describe, expect, it } from 'vitest';
import { capture } from './capture';
import { closing } from './process';
import { startProgram } from './startProgram';

afterEach(() => {
  delete process.env.BRIGHT_REEL_STALL_SECONDS;
  delete process.env.BRIGHT_REEL_PROGRAM_BYTES;
});

describe('programs that work on media', () => {
  it('that do nothing for long are ended, with a sentence', async () => {
    process.env.BRIGHT_REEL_STALL_SECONDS = '1';
    const child = startProgram<'out'>('sleep', ['60'], ['ignore', 'pipe', 'ignore']);
    await expect(closing(child)).rejects.toThrow('made no progress for 1 s and was stopped');
    await expect(capture('sleep', ['60'])).rejects.toThrow('made no progress for 1 s');
  });
  it('that wait for somebody who does not read what they say are ended too', async () => {
    process.env.BRIGHT_REEL_STALL_SECONDS = '1';
    const child = startProgram<'out'>('perl', ['-e', 'print "x" x 1e6 while 1'], ['ignore', 'pipe', 'ignore']);
    child.stdout.pause();
    setTimeout(() => child.stdout.resume(), 4000);
    await expect(closing(child)).rejects.toThrow('made no progress');
  });
  it('that work without a word are left alone', async () => {
    process.env.BRIGHT_REEL_STALL_SECONDS = '1';
    expect((await capture('perl', ['-e', 'my $t = time; 1 while time < $t + 3; print "done"'])).toString()).toBe(
      'done',
    );
  });
  // setrlimit(2): brk and private anonymous maps count towards RLIMIT_DATA.
  it('take no more memory than they may', async () => {
    process.env.BRIGHT_REEL_PROGRAM_BYTES = '256000000';
    const taking = (bytes: number) => ['-e', `my $x = "x" x ${bytes}; print length $x`];
    expect((await capture('perl', taking(1e8))).toString()).toBe('100000000');
    await expect(capture('perl', taking(1e9))).rejects.toThrow(/Out of memory|ended with/);
  });
  it('end with whoever started them, however that ends', async () => {
    const own = spawn(process.execPath, [
      ...['--import', 'tsx', '-e'],
      `import('./media/startProgram.ts').then(({ startProgram }) =>
        setTimeout(() => console.log(startProgram('sleep', ['300'], ['ignore', 'ignore', 'ignore']).pid), 0));`,
    ]);
    const pid = await new Promise<number>((resolve) =>
      own.stdout.once('data', (said: Buffer) => resolve(Number(said))),
    );
    const alive = () => existsSync(`/proc/${pid}`);
    await sleep(300);
    expect(alive()).toBe(true);
    own.kill('SIGKILL');
    for (let tries = 0; tries < 50 && alive(); tries++) await sleep(100);
    expect(alive()).toBe(false);
  });
  it('that are not there are named', async () => {
    await expect(capture('no-such-program', [])).rejects.toThrow('no-such-program could not be started');
  });
});
