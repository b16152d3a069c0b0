// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Moment } from '#core/moments';
import { StringOut, type Range } from '#core/time';
import { footage } from '../../core/moments/testFootage';
import type { PageContext } from './pageContext';
import { usePageActions } from './usePageActions';

vi.mock('sonner', () => ({ toast: vi.fn() }));

/** Two files of twenty seconds each, one after the other; a moment in each. */
const files = [
  footage(20, {}, [
    { kind: 'scene', start: 0, end: 8 },
    { kind: 'scene', start: 8, end: 20 },
  ]),
  footage(20, {}, [], 'b'),
];
const string = new StringOut(files.map(({ id, durationSeconds }) => ({ id, seconds: durationSeconds })));
const moment = (media: string, start: number, end: number) => ({ media, start, end }) as Moment;
const placed = [
  { range: { start: 2, end: 6 }, moment: moment('a', 2, 6) },
  { range: { start: 25, end: 30 }, moment: moment('b', 5, 10) },
];
const markers = [
  { id: 'later', media: 'b', seconds: 12, note: '', kind: 'note' },
  { id: 'first', media: 'a', seconds: 3, note: '', kind: 'note' },
  { id: 'elsewhere', media: 'gone', seconds: 3, note: '', kind: 'note' },
];

describe('what is done on the page', () => {
  let done: unknown[][] = [];
  const said = (name: string) => done.filter(([each]) => each === name).map(([, ...rest]) => rest);
  beforeEach(() => (done = []));
  const tell =
    (name: string) =>
    (...what: unknown[]): void =>
      void done.push([name, ...what]);
  const open = (time: number, more: Partial<PageContext> = {}, marked: Range | null = null) =>
    renderHook(() =>
      usePageActions({
        state: { view: 'page', panel: 'why' },
        change: tell('change'),
        string,
        player: { time, seek: tell('seek'), pause: tell('pause') },
        marks: { marked, setMarked: tell('marked'), setSelected: tell('selected') },
        notes: {
          markers,
          silence: { kept: [] },
          decide: tell('decide'),
          setMarker: tell('marker'),
          setDefaults: tell('defaults'),
          setSilence: tell('silence'),
        },
        footage: files,
        placed,
        cells: [],
        cell: null,
        silences: new Map(),
        silenceHere: null,
        hits: [],
        place: string.locate(time),
        acting: null,
        actingPieces: [],
        nameOf: (id: string) => `${id}.mp4`,
        lengthOf: () => 20,
        onPage: tell('page'),
        onWrite: tell('write'),
        ...more,
      } as unknown as PageContext),
    ).result;

  it('a press sets the playhead and chooses the moment there', () => {
    open(0).current.point(26);
    expect([said('seek'), said('selected'), said('marked')]).toEqual([[[26]], [[placed[1]!.range]], [[null]]]);
    open(0).current.point(12);
    expect(said('selected').at(-1)).toEqual([null]);
  });
  it('a place in a file is where the file lies in the string; one that is not shown leads nowhere', () => {
    open(0).current.goTo('b', 4);
    open(0).current.goTo('gone', 4);
    expect(said('seek')).toEqual([[24]]);
  });
  it('steps go from moment to moment and stop at the ends', () => {
    open(3).current.jump(1);
    open(27).current.jump(-1);
    open(31).current.jump(1);
    expect(said('seek')).toEqual([[25], [25]]);
  });
  it('with scenes on show steps go from scene to scene', () => {
    const cells = [0, 8].map((start) => ({ media: 'a', start, end: start + 8 }));
    const scenes = {
      state: { view: 'scenes', panel: 'why' },
      cells,
      cell: cells[0],
    } as unknown as Partial<PageContext>;
    open(3, scenes).current.jump(1);
    expect(said('seek')).toEqual([[8]]);
  });
  it('with something found steps go through that, in the order of the string', () => {
    const hits = [
      { media: 'b', start: 1, end: 2 },
      { media: 'a', start: 9, end: 10 },
    ];
    open(0, { state: { view: 'page', panel: 'found' }, hits } as unknown as Partial<PageContext>).current.jump(1);
    expect(said('seek')).toEqual([[9]]);
  });
  it('the shot under the playhead is marked, within what counts of the file', () => {
    open(10).current.markShot();
    expect(said('marked')).toEqual([[{ start: 8, end: 20 }]]);
    const wanted = [{ ...files[0]!, wanted: { start: 10, end: 15 } }, files[1]!];
    open(12, { footage: wanted }).current.markShot();
    expect(said('marked').at(-1)).toEqual([{ start: 10, end: 15 }]);
  });
  it('in and out points mark from there to the end of the file, or to the other point', () => {
    open(24).current.mark('start');
    expect(said('marked')).toEqual([[{ start: 24, end: 40 }]]);
    open(30, {}, { start: 24, end: 40 }).current.mark('end');
    expect(said('marked').at(-1)).toEqual([{ start: 24, end: 30 }]);
    // An out point before the in point begins anew.
    open(22, {}, { start: 24, end: 40 }).current.mark('end');
    expect(said('marked').at(-1)).toEqual([{ start: 20, end: 22 }]);
    // Marks of another file do not count.
    open(5, {}, { start: 24, end: 40 }).current.mark('start');
    expect(said('marked').at(-1)).toEqual([{ start: 5, end: 20 }]);
  });
  it('an edge that is drawn shows its frame, and the result is kept by hand', () => {
    const result = open(0);
    act(() => result.current.trim(30, 33, 'moving'));
    expect([said('seek'), said('marked'), said('decide')]).toEqual([[[32.98]], [[{ start: 25, end: 33 }]], []]);
    act(() => result.current.trim(30, 34, 'done'));
    expect(said('decide')).toEqual([[[{ id: 'b', start: 5, end: 14 }], 'keep']]);
    expect(result.current.trimming).toBeNull();
  });
  it('an edge that is put back by Escape decides nothing', () => {
    const result = open(0);
    act(() => result.current.trim(30, 33, 'moving'));
    expect(result.current.trimming).not.toBeNull();
    act(() => result.current.trim(30, 30, 'left'));
    expect([result.current.trimming, said('decide'), said('marked').at(-1)]).toEqual([null, [], [null]]);
  });
  it('an edge goes no further than its file, and a moment keeps a tenth of a second', () => {
    const into = open(0);
    act(() => into.current.trim(25, 12, 'done'));
    expect(said('decide')).toEqual([[[{ id: 'b', start: 0, end: 10 }], 'keep']]);
    const over = open(0);
    act(() => over.current.trim(2, 15, 'done'));
    expect(said('decide').at(-1)).toEqual([[{ id: 'a', start: 5.9, end: 6 }], 'keep']);
    const nothing = open(0);
    act(() => nothing.current.trim(17, 18, 'done'));
    expect(said('decide')).toHaveLength(2);
  });
  it('marks become the default in and out of their file; without marks it counts whole again', () => {
    open(25, {}, { start: 22, end: 38 }).current.setDefaults();
    expect(said('defaults')).toEqual([[{ id: 'b', in: 2, out: 18 }]]);
    open(25).current.setDefaults();
    expect(said('defaults').at(-1)).toEqual([{ id: 'b', in: null, out: null }]);
  });
  it('markers are dropped where the playhead is, and stepped through in the order of the string', () => {
    open(23).current.dropMarker(true);
    expect(said('marker')).toMatchObject([[{ media: 'b', seconds: 3 }]]);
    expect([said('pause').length, said('change'), said('write').length]).toEqual([1, [[{ panel: 'markers' }]], 1]);
    const { current } = open(10);
    expect(current.markerTimes.map(({ marker, time }) => [marker.id, time])).toEqual([
      ['first', 3],
      ['later', 32],
    ]);
    current.jumpMarker(1);
    current.jumpMarker(-1);
    expect(said('seek')).toEqual([[32], [3]]);
  });
  it('a silence under the playhead is kept, and given free again', () => {
    const silenceHere = { start: 4, end: 6, kept: false };
    open(5, { silenceHere }).current.keepSilence();
    expect(said('silence')).toEqual([[{ kept: [{ media: 'a', start: 4, end: 6 }] }]]);
  });
  it('what acts is decided, all of it; with nothing there nothing happens', () => {
    const actingPieces = [{ id: 'a', start: 1, end: 2 }];
    open(0, { acting: { start: 1, end: 2 }, actingPieces }).current.decideHere('drop');
    open(0).current.decideHere('keep');
    expect(said('decide')).toEqual([[actingPieces, 'drop']]);
  });
});
