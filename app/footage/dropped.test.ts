// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { binOfPath } from '#core/formats';
import { droppedFiles, gather } from './dropped';

const at = (path: string) => ({ file: new File(['x'], path.split('/').at(-1)!), path });

describe('bins by folders', () => {
  it.each([
    ['a.mp4', null],
    ['Card 1/a.mp4', 'Card 1'],
    ['Day 1/Card 2/a.mp4', 'Day 1 / Card 2'],
    ['/Day 1//a.mp4', 'Day 1'],
  ])('%s', (path, bin) => expect(binOfPath(path)).toBe(bin));
});

describe('what is taken', () => {
  it('of folders what can be brought in, in the order of names, without what systems put beside it', () => {
    const { files, passedOver } = gather(
      [
        'Card/clip10.MP4',
        'Card/clip2.mp4',
        'Card/._clip2.mp4',
        'Card/.DS_Store',
        'Card/Thumbs.db',
        'Card/clip2.xml',
        'Card/B/photo.HEIC',
      ].map(at),
      'open',
    );
    expect(files.map(({ file, binName }) => [file.name, binName])).toEqual([
      ['photo.HEIC', 'Card / B'],
      ['clip2.mp4', 'Card'],
      ['clip10.MP4', 'Card'],
    ]);
    expect(passedOver).toBe(1);
  });
  it('single files whatever they are, into the open bin: the server says what is wrong with them', () => {
    expect(gather([at('notes.xml')], 'open')).toEqual({
      files: [{ file: expect.any(File) as File, binId: 'open' }],
      passedOver: 0,
    });
  });
});

describe('what is dropped', () => {
  const entry = (name: string, children?: unknown[]) =>
    children
      ? {
          name,
          isFile: false,
          isDirectory: true,
          // As browsers do: some at a time, then none.
          createReader: () => {
            const rest = [...children];
            return { readEntries: (done: (some: unknown[]) => void) => done(rest.splice(0, 2)) };
          },
        }
      : {
          name,
          isFile: true,
          isDirectory: false,
          file: (done: (file: File) => void, fail: () => void) =>
            name === 'vanished.mp4' ? fail() : done(new File(['x'], name)),
        };
  const transfer = (...entries: ReturnType<typeof entry>[]) =>
    entries.map((each) => ({
      kind: 'file',
      webkitGetAsEntry: () => each,
      getAsFile: () => new File(['x'], each.name),
    })) as unknown as DataTransferItem[];
  it('folders with everything in them, however many', async () => {
    const card = entry('Card', [
      entry('a.mp4'),
      entry('b.mp4'),
      entry('c.mp4'),
      entry('vanished.mp4'),
      entry('Sub', [entry('d.mp4')]),
    ]);
    const found = await droppedFiles(transfer(card, entry('e.mp4')));
    expect(found.map(({ path }) => path)).toEqual([
      'Card/a.mp4',
      'Card/b.mp4',
      'Card/c.mp4',
      'Card/Sub/d.mp4',
      'e.mp4',
    ]);
  });
  it('plain files as they are', async () =>
    expect((await droppedFiles(transfer(entry('a.mp4'), entry('b.mp4')))).map(({ path }) => path)).toEqual([
      'a.mp4',
      'b.mp4',
    ]));
});
