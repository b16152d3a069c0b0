// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { musicDefaults, reelFrames, type Reel } from '#core/reel';
import { rates } from '#core/time';
import { emptyVariants, orderedGroups } from '#core/variants';
import type { Item } from '#usecases/projects';
import type { VariantsData } from '#usecases/variants';
import { useVariants } from './useVariants';

const submit = vi.fn();
let saved = Promise.resolve();
vi.mock('react-router', () => ({
  useFetcher: () => ({ submit, state: 'idle', data: undefined }),
  useNavigate: () => vi.fn(),
  useNavigation: () => ({ state: 'idle' }),
  useRevalidator: () => ({ revalidate: vi.fn() }),
}));
vi.mock('../history/saveQueue', async (actual) => ({
  ...(await actual<object>()),
  afterSaving: (then: () => void) => saved.then(then),
}));

const reel = (name: string): Reel => ({
  schema: 'BrightReel.Reel.1',
  name,
  rate: rates['25'],
  size: { width: 1920, height: 1080 },
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [{ kind: 'clip', id: name, media: 'pond', name, sourceIn: 0, frames: 100 }],
    },
  ],
});
const pond = {
  id: 'pond',
  name: 'pond.mp4',
  hash: 'pond',
  binId: null,
  probe: { kind: 'video', durationSeconds: 60, rate: rates['25'], width: 1920, height: 1080, hasSound: true },
  defaultIn: null,
  defaultOut: null,
} as unknown as Item;
const names = ['Horn', 'Launch', 'Sinking', 'Prize'];
let project = 0;
const data = (): VariantsData => ({
  set: { value: emptyVariants, version: 0 },
  reels: names.map((name) => ({ id: name, name, size: { width: 1920, height: 1080 }, seconds: 4 })),
  documents: names.map((name) => ({ id: name, document: reel(name) })),
  bins: [],
  markers: [],
  kept: [],
  photoSeconds: 4,
  pieceSeconds: 6,
  pace: 1,
});

/** The groups of a new project, with reels in them. */
function open(...groups: string[][]) {
  // Each project has a document of its own for as long as the page lives.
  const id = `project-${project++}`;
  const given = data();
  const { result } = renderHook(() => useVariants(id, given, [pond]));
  for (const [place, pieces] of groups.entries())
    act(
      () =>
        void result.current.add(
          orderedGroups(result.current.set)[place]!,
          pieces.map((name) => ({ kind: 'reel', reel: name })),
        ),
    );
  return result;
}

describe('the groups of variants', () => {
  beforeEach(() => {
    submit.mockClear();
    vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ version: 1 })));
  });

  it('give every combination, named; groups with nothing in them do not count', () => {
    const { current } = open(['Horn', 'Launch'], [], ['Sinking', 'Prize']);
    expect([current.count, current.wanted.length, current.places.length, current.twice.size]).toEqual([4, 4, 2, 0]);
    expect([...current.names.values()]).toEqual([
      '01 Horn Sinking',
      '02 Horn Prize',
      '03 Launch Sinking',
      '04 Launch Prize',
    ]);
  });
  it('are taken back step by step, and done again', () => {
    const result = open(['Horn', 'Launch'], ['Sinking']);
    act(() => void result.current.tickSome(1));
    expect(result.current.wanted).toHaveLength(1);
    act(() => result.current.history.undo());
    expect(result.current.wanted).toHaveLength(2);
    act(() => result.current.history.undo());
    expect(result.current.places).toHaveLength(1);
    act(() => result.current.history.redo());
    expect(result.current.count).toBe(2);
  });
  it('names that stand twice are found', () => {
    const result = open(['Horn', 'Launch']);
    act(() => void result.current.change({ ...result.current.set, pattern: 'same' }));
    expect(result.current.twice).toEqual(new Set(['same']));
  });
  it('show one of them as the reel that would be made, with the music that was chosen', () => {
    const result = open(['Horn', 'Launch'], ['Sinking']);
    expect(reelFrames(result.current.reel!)).toBe(200);
    act(() => result.current.show(result.current.list[1]!));
    expect(result.current.reel!.tracks[0]!.items[0]).toMatchObject({ name: 'Launch' });
    act(() => void result.current.change({ ...result.current.set, music: { of: 'one', media: 'pond', name: 'Pond' } }));
    expect(result.current.reel!.music).toEqual({ ...musicDefaults, media: 'pond', name: 'Pond' });
  });
  it('are made once everything is saved, and rendered only when that is asked for', async () => {
    let save = () => undefined as void;
    saved = new Promise((done) => (save = done));
    const result = open(['Horn', 'Launch'], ['Prize']);
    act(() => result.current.make());
    expect(submit).not.toHaveBeenCalled();
    save();
    await saved;
    await vi.waitFor(() => expect(submit).toHaveBeenCalledTimes(1));
    expect(submit.mock.calls[0]![0]).toMatchObject({ render: false, quality: 'good' });
  });
});
