import { beforeEach, describe, expect, it } from 'vitest';
import { UploadQueue, type UploadState } from './uploadQueue';

interface Options {
  metadata: Record<string, string>;
  onProgress(sent: number, total: number): void;
  onSuccess(payload?: { lastResponse: { getHeader(name: string): string | undefined } }): void;
  onError(error: Error): void;
}
/** Uploads that were begun, as whoever sends them sees them. */
const made: FakeUpload[] = [];
let earlier: { uploadUrl: string }[] = [];
class FakeUpload {
  started = false;
  resumed: unknown = null;
  aborted = false;
  constructor(
    readonly file: File,
    readonly options: Options,
  ) {
    made.push(this);
  }
  findPreviousUploads = async () => earlier;
  resumeFromPreviousUpload(previous: unknown) {
    this.resumed = previous;
  }
  start() {
    this.started = true;
  }
  abort = async () => {
    this.aborted = true;
  };
}

const file = (name: string, size = 100) => new File(['x'.repeat(size)], name);
const settled = () => new Promise((done) => setTimeout(done));

describe('files on their way in', () => {
  let time = 0;
  const arrived = new Map<string, number | null>();
  const asked: string[] = [];
  let kept: { urlStorageKey: string; uploadUrl: string; size: number; metadata: Record<string, string> }[] = [];
  const open = () =>
    new UploadQueue(
      'project',
      ((each: File, options: unknown) => new FakeUpload(each, options as Options)) as never,
      {
        findAllUploads: async () => kept as never,
        removeUpload: async (key) => void (kept = kept.filter((each) => each.urlStorageKey !== key)),
      },
      async (address, forget) => {
        asked.push(`${forget ? 'forget' : 'ask'} ${address}`);
        const bytes = arrived.get(address);
        if (bytes === undefined) throw new Error('no answer');
        return bytes;
      },
      () => time,
    );
  const add = async (queue: UploadQueue, ...files: File[]) => {
    queue.add(files.map((each) => ({ file: each, binId: 'bin' })));
    await settled();
  };
  const names = (queue: UploadQueue) => queue.state().lines.map(({ name }) => name);
  beforeEach(() => {
    made.length = asked.length = time = 0;
    earlier = [];
    kept = [];
    arrived.clear();
  });

  it('two go at once, the others wait for their turn; what arrived goes from the list', async () => {
    const queue = open();
    let arrivals = 0;
    queue.onArrival(() => arrivals++);
    await add(queue, file('a'), file('b'), file('c'), file('d'));
    expect([names(queue), made.map((each) => each.file.name)]).toEqual([
      ['a', 'b', 'c', 'd'],
      ['a', 'b'],
    ]);
    expect(queue.state().lines.map((line) => line.state)).toEqual(['sending', 'sending', 'waiting', 'waiting']);
    made[0]!.options.onSuccess({
      lastResponse: { getHeader: (name) => (name === 'Upload-Item' ? 'item' : undefined) },
    });
    expect([...queue.state().arrived]).toEqual(['item']);
    expect([names(queue), made.map((each) => each.file.name), arrivals]).toEqual([['b', 'c', 'd'], ['a', 'b', 'c'], 1]);
  });
  it('each says where it belongs', async () => {
    const queue = open();
    await add(queue, file('a'));
    queue.add([{ file: file('b'), binName: 'Day 1 / Card 2' }]);
    expect(made.map((each) => each.options.metadata)).toEqual([
      { filename: 'a', projectId: 'project', binId: 'bin' },
      { filename: 'b', projectId: 'project', binName: 'Day 1 / Card 2' },
    ]);
  });
  it('one total counts everything: what is here, what moves and what waits', async () => {
    const queue = open();
    await add(queue, file('a', 100), file('b', 300), file('c', 600));
    expect(queue.state().total).toEqual({ files: 3, arrived: 0, bytes: 1000, sent: 0, secondsLeft: null });
    time = 4000;
    made[0]!.options.onProgress(100, 100);
    made[0]!.options.onSuccess();
    made[1]!.options.onProgress(100, 300);
    // The first report of each is what was there before; from then on 200 bytes in 4 s.
    time = 8000;
    made[1]!.options.onProgress(300, 300);
    const { total } = queue.state();
    expect(total).toMatchObject({ files: 3, arrived: 1, bytes: 1000, sent: 400 });
    expect(total!.secondsLeft).toBeCloseTo(600 / (200 / 8), 5);
    made[1]!.options.onSuccess();
    made[2]!.options.onSuccess();
    expect(queue.state().total).toBeNull();
    // What comes later is another total.
    await add(queue, file('e', 50));
    expect(queue.state().total).toMatchObject({ files: 1, arrived: 0, bytes: 50 });
  });
  it('one that was broken off goes on where it stopped', async () => {
    earlier = [{ uploadUrl: '/upload/1' }];
    const queue = open();
    await add(queue, file('a'));
    expect(made[0]).toMatchObject({ started: true, resumed: earlier[0] });
  });
  it('an empty file is not sent, and holds nobody up', async () => {
    const queue = open();
    await add(queue, file('empty', 0), file('a'));
    expect(made.map((each) => each.file.name)).toEqual(['a']);
    expect(queue.state().lines[0]!.problem).toBe('The file is empty. Copy it from the camera again.');
    queue.cancel(queue.state().lines[0]!.id);
    expect(names(queue)).toEqual(['a']);
  });
  it('one that the server refuses says so in its words, and the next has its turn', async () => {
    const queue = open();
    await add(queue, file('a'), file('b'), file('c'));
    const refusal = Object.assign(new Error('refused'), {
      originalResponse: { getStatus: () => 507, getBody: () => 'The disk is full. Free some space and try again.' },
    });
    made[0]!.options.onError(refusal);
    expect(queue.state().lines[0]!.problem).toBe('The disk is full. Free some space and try again.');
    expect(made.map((each) => each.file.name)).toEqual(['a', 'b', 'c']);
    made[1]!.options.onError(new Error('no answer'));
    expect(queue.state().lines[1]!.problem).toMatch(/what was sent is kept/);
  });
  it('what is cancelled ends, and the next has its turn; all at once too', async () => {
    const queue = open();
    await add(queue, file('a'), file('b'), file('c'));
    queue.cancel(queue.state().lines[0]!.id);
    expect([made[0]!.aborted, names(queue), made.length]).toEqual([true, ['b', 'c'], 3]);
    queue.cancelAll();
    expect([made.map((each) => each.aborted), names(queue)]).toEqual([[true, true, true], []]);
  });
  it('what a reload broke off is listed, until it is chosen again or forgotten', async () => {
    const before = (name: string, project = 'project', size = 100) => ({
      urlStorageKey: `key ${name}`,
      uploadUrl: `/upload/${name}`,
      size,
      metadata: { filename: name, projectId: project },
    });
    kept = [before('long'), before('other', 'elsewhere'), before('gone'), before('away'), before('short')];
    arrived.set('/upload/long', 40).set('/upload/gone', null).set('/upload/short', 7);
    const queue = open();
    await queue.findBrokenOff();
    const listed = (state: UploadState) => state.brokenOff.map(({ name, sent, size }) => [name, sent, size]);
    expect(listed(queue.state())).toEqual([
      ['long', 40, 100],
      ['short', 7, 100],
    ]);
    // What the server has nothing of is no longer remembered; what it could not be asked about is.
    expect(kept.map((each) => each.metadata.filename)).toEqual(['long', 'other', 'away', 'short']);
    await queue.forget(queue.state().brokenOff[1]!);
    expect([listed(queue.state()), asked.at(-1)]).toEqual([[['long', 40, 100]], 'forget /upload/short']);
    await add(queue, file('long', 100));
    expect(listed(queue.state())).toEqual([]);
  });
});
