// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useUploads } from './useUploads';

interface Options {
  metadata: Record<string, string>;
  onProgress(sent: number, total: number): void;
  onSuccess(): void;
  onError(error: Error): void;
}
/** Uploads that were begun, as whoever sends them sees them. */
const made: FakeUpload[] = [];
let earlier: unknown[] = [];
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
const revalidate = vi.fn();
vi.mock('tus-js-client', () => ({
  Upload: class {
    constructor(file: File, options: Options) {
      return new FakeUpload(file, options);
    }
  },
}));
vi.mock('react-router', () => ({ useRevalidator: () => ({ revalidate }) }));

const file = (name: string, size = 100) => new File(['x'.repeat(size)], name);

describe('files on their way in', () => {
  beforeEach(() => {
    made.length = 0;
    earlier = [];
    revalidate.mockClear();
  });
  const open = (bin: string | null = 'bin') => renderHook(() => useUploads('project', bin)).result;
  const add = (hook: ReturnType<typeof open>, ...files: File[]) => act(async () => hook.current.add(files));
  const names = (hook: ReturnType<typeof open>) => hook.current.uploads.map(({ name }) => name);

  it('two go at once, the others wait for their turn; what arrived goes from the list', async () => {
    const hook = open();
    await add(hook, file('a'), file('b'), file('c'), file('d'));
    expect([names(hook), made.map((each) => each.file.name)]).toEqual([
      ['a', 'b', 'c', 'd'],
      ['a', 'b'],
    ]);
    await act(async () => made[0]!.options.onSuccess());
    expect([names(hook), made.map((each) => each.file.name)]).toEqual([
      ['b', 'c', 'd'],
      ['a', 'b', 'c'],
    ]);
    expect(revalidate).toHaveBeenCalledTimes(1);
  });
  it('each says where it belongs and how far it is', async () => {
    const hook = open();
    await add(hook, file('a'));
    expect(made[0]!.options.metadata).toEqual({ filename: 'a', projectId: 'project', binId: 'bin' });
    act(() => made[0]!.options.onProgress(25, 100));
    expect(hook.current.uploads[0]).toMatchObject({ share: 0.25, problem: null });
    await add(open(null), file('b'));
    expect(made[1]!.options.metadata).toEqual({ filename: 'b', projectId: 'project' });
  });
  it('one that was broken off goes on where it stopped', async () => {
    earlier = [{ uploadUrl: '/upload/1' }];
    const hook = open();
    await add(hook, file('a'));
    expect(made[0]).toMatchObject({ started: true, resumed: earlier[0] });
    expect(names(hook)).toEqual(['a']);
  });
  it('an empty file is not sent, and holds nobody up', async () => {
    const hook = open();
    await add(hook, file('empty', 0), file('a'));
    expect(made.map((each) => each.file.name)).toEqual(['a']);
    expect(hook.current.uploads[0]!.problem).toBe('The file is empty. Copy it from the camera again.');
    act(() => hook.current.cancel(hook.current.uploads[0]!.id));
    expect(names(hook)).toEqual(['a']);
  });
  it('one that the server refuses says so in its words, and the next has its turn', async () => {
    const hook = open();
    await add(hook, file('a'), file('b'), file('c'));
    const refusal = Object.assign(new Error('refused'), {
      originalResponse: { getStatus: () => 507, getBody: () => 'The disk is full. Free some space and try again.' },
    });
    await act(async () => made[0]!.options.onError(refusal));
    expect(hook.current.uploads[0]!.problem).toBe('The disk is full. Free some space and try again.');
    expect(made.map((each) => each.file.name)).toEqual(['a', 'b', 'c']);
  });
  it('without a server it says that what was sent is kept', async () => {
    const hook = open();
    await add(hook, file('a'));
    await act(async () => made[0]!.options.onError(new Error('no answer')));
    expect(hook.current.uploads[0]!.problem).toMatch(/what was sent is kept/);
  });
  it('one that is cancelled ends, and the next has its turn', async () => {
    const hook = open();
    await add(hook, file('a'), file('b'), file('c'));
    await act(async () => hook.current.cancel(hook.current.uploads[0]!.id));
    expect([made[0]!.aborted, names(hook), made.length]).toEqual([true, ['b', 'c'], 3]);
  });
});
