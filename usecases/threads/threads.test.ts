import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase, migrateDatabase } from '#data/db';
import { Threads } from './threads';

/** A thread that answers a few calls and says which thread it is. */
const made = `
  import { parentPort, threadId } from 'node:worker_threads';
  let counted = 0;
  parentPort.on('message', ({ id, name, given }) => {
    if (name === 'end') process.exit(1);
    if (name === 'never') return;
    if (name === 'later') return setTimeout(() => parentPort.postMessage({ id, value: given }), given[0]);
    if (name === 'count') return parentPort.postMessage({ id, value: ++counted });
    if (name === 'fail')
      return parentPort.postMessage({ id, fault: { name: 'RangeError', message: given[0], code: 'ENOSPC' } });
    parentPort.postMessage({ id, value: name === 'who' ? threadId : given });
  });`;
const file = () => new URL(`data:text/javascript,${encodeURIComponent(made)}`);

describe('threads', () => {
  let threads = new Threads(file, 2);
  afterEach(async () => {
    await threads.close();
    threads = new Threads(file, 2);
  });

  it('give back what a call answers, each to its caller', async () => {
    const asked = Array.from({ length: 20 }, (_, index) => threads.call('echo', [index, new Float32Array([index])]));
    const answers = await Promise.all(asked);
    expect(answers).toEqual(Array.from({ length: 20 }, (_, index) => [index, new Float32Array([index])]));
  });

  it('open another while the first is busy, and no more than allowed', async () => {
    const busy = threads.call('never', []);
    const first = await threads.call('who', []);
    const others = await Promise.all(Array.from({ length: 6 }, () => threads.call('who', [])));
    expect(new Set([first, ...others]).size).toBe(2);
    void busy.catch(() => undefined);
  });

  it('pass a fault on with its name and code', async () => {
    const fault = threads.call('fail', ['The disk is full.']);
    await expect(fault).rejects.toMatchObject({ name: 'RangeError', message: 'The disk is full.', code: 'ENOSPC' });
  });

  it('fail what a thread was doing that ended, and open a new one', async () => {
    const one = new Threads(file, 1);
    const lost = [one.call('never', []), one.call('never', []), one.call('end', [])];
    const ended = await Promise.allSettled(lost);
    expect(ended.map(({ status }) => status)).toEqual(['rejected', 'rejected', 'rejected']);
    expect(await one.call('echo', ['again'])).toEqual(['again']);
    await one.close();
  });

  it('give each thread a few at once, and forget what waits for somebody who has gone', async () => {
    const one = new Threads(file, 1);
    const busy = [300, 300, 300, 300].map((milliseconds) => one.call('later', [milliseconds]));
    const gone = new AbortController();
    const dropped = Array.from({ length: 8 }, () => one.call('count', [], gone.signal));
    const kept = one.call('count', []);
    gone.abort();
    const ended = await Promise.allSettled(dropped);
    expect(ended.every((each) => each.status === 'rejected' && (each.reason as Error).name === 'AbortError')).toBe(
      true,
    );
    expect(await kept).toBe(1);
    await expect(one.call('count', [], AbortSignal.abort())).rejects.toThrow(/has gone/);
    expect(await Promise.all(busy)).toHaveLength(4);
    expect(await one.call('count', [])).toBe(2);
    await one.close();
  });

  it('answer somebody who goes away while it is computed all the same', async () => {
    const gone = new AbortController();
    const begun = threads.call('later', [100], gone.signal);
    setTimeout(() => gone.abort(), 20);
    expect(await begun).toEqual([100]);
  });

  it('refuse what cannot be sent without keeping anybody waiting', async () => {
    await expect(threads.call('echo', [() => 0])).rejects.toThrow(/could not be cloned/);
    expect(await threads.call('echo', [1])).toEqual([1]);
  });
});

describe.skipIf(!process.env.DATABASE_URL)('a thread of the web server', () => {
  beforeAll(migrateDatabase);
  afterAll(closeDatabase);
  it('answers the use cases, and passes faults on', async () => {
    const threads = new Threads();
    expect(await threads.call('showPeople', ['0b0a7000-0000-4000-8000-00000000dead'])).toMatchObject({
      ok: false,
      why: 'missing',
    });
    await expect(threads.call('takeUpload', ['no id', 'nowhere', 'a.mp4', null])).rejects.toMatchObject({
      code: 'ENOENT',
    });
    await threads.close();
  });
});
