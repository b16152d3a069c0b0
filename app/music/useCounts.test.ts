// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { BeatGrid, MusicHearing } from '#core/sound';
import { countsOf, partAt, useCounts } from './useCounts';

const even = (bpm: number): BeatGrid => {
  const beats = Array.from({ length: Math.floor(bpm) }, (_, index) => (index * 60) / bpm);
  return { beats, bar: 4, starts: beats.flatMap((_, index) => (index % 4 === 0 ? [index] : [])) };
};
const rivals = [90, 60, 180, 75].map((tempo) => ({ tempo, share: 0.8, grid: even(tempo) }));
const hearing = {
  durationSeconds: 60,
  grid: even(120),
  doubts: [{ start: 10, end: 20, tempo: 75, rivals: [3, 0] }],
  rivals,
  sections: [
    { start: 0, end: 30 },
    { start: 30, end: 60 },
  ],
  strokes: [],
} as unknown as MusicHearing;

describe('the part that a count is about', () => {
  it('is the doubtful one, else the section, else all of it', () => {
    expect(partAt(12, hearing.doubts, hearing)).toEqual({ start: 10, end: 20 });
    expect(partAt(35, hearing.doubts, hearing)).toEqual({ start: 30, end: 60 });
    expect(partAt(12, [], { sections: [], durationSeconds: 44 })).toEqual({ start: 0, end: 44 });
  });
});

describe('ways to count a part', () => {
  it('are its own rivals, best first, and at last the one that is taken', () => {
    const counts = countsOf({ start: 10, end: 20 }, hearing.grid, hearing);
    expect(counts.map(({ tempo, isOwn }) => [Math.round(tempo), isOwn])).toEqual([
      [75, false],
      [90, false],
      [120, true],
    ]);
  });
  it('are those of the whole where nothing is in doubt, at most three, without the one that is taken', () => {
    const counts = countsOf({ start: 30, end: 60 }, even(60), hearing);
    expect(counts.map(({ tempo }) => Math.round(tempo))).toEqual([90, 180, 75, 60]);
  });
});

describe('counts under one’s hands', () => {
  const actions = { count: vi.fn(() => true) };
  const player = { playing: true, play: vi.fn(), at: 0, exact: () => player.at };
  const seek = vi.fn();
  const setProblem = vi.fn();
  const open = (doubts = hearing.doubts) =>
    renderHook(() =>
      useCounts({
        montage: { grid: hearing.grid, span: { start: 0, end: 60 } },
        hearing,
        doubts,
        actions,
        player,
        time: 35,
        seek,
        setProblem,
      } as unknown as Parameters<typeof useCounts>[0]),
    );
  beforeEach(() => {
    for (const each of [actions.count, player.play, seek, setProblem]) each.mockClear();
    player.playing = true;
  });
  const tap = (hook: ReturnType<typeof open>, times: number[]) => {
    for (const at of times) {
      player.at = at;
      act(() => hook.result.current.tap());
    }
  };

  it('one key plays them one after another from where the doubtful part begins', () => {
    const hook = open();
    const heard = () => [hook.result.current.heard?.part.start, Math.round(hook.result.current.heard!.count.tempo)];
    act(() => hook.result.current.hearNext());
    expect(heard()).toEqual([10, 75]);
    expect([seek.mock.calls, player.play.mock.calls.length]).toEqual([[[10]], 1]);
    act(() => hook.result.current.hearNext());
    expect(heard()).toEqual([10, 90]);
    for (let times = 0; times < 2; times++) act(() => hook.result.current.hearNext());
    expect(heard()).toEqual([10, 75]);
  });
  it('one key takes what is heard for its part, another for the whole', () => {
    const hook = open();
    act(() => hook.result.current.hearNext());
    act(() => hook.result.current.take(false));
    act(() => hook.result.current.hearNext());
    act(() => hook.result.current.take(true));
    expect(actions.count.mock.calls).toEqual([
      [rivals[3]!.grid, { start: 10, end: 20 }],
      [rivals[3]!.grid, null],
    ]);
    expect(hook.result.current.heard).toBeNull();
    act(() => hook.result.current.take(false));
    expect(setProblem).toHaveBeenCalledWith(expect.stringMatching(/^Nothing is heard yet/));
  });
  it('four taps settle the part they lie in, a fifth goes on with it, and one key takes them for the whole', () => {
    const hook = open();
    tap(hook, [12, 12.7, 13.4]);
    expect([actions.count.mock.calls.length, hook.result.current.tapped?.taps.length]).toEqual([0, 3]);
    tap(hook, [14.1]);
    const [grid, part] = actions.count.mock.lastCall as unknown as [BeatGrid, object];
    expect(part).toEqual({ start: 10, end: 20 });
    expect(grid.beats[1]! - grid.beats[0]!).toBeCloseTo(0.7, 6);
    hook.rerender();
    tap(hook, [14.8]);
    expect(actions.count.mock.lastCall).toEqual([expect.anything(), { start: 10, end: 20 }, 'taps']);
    act(() => hook.result.current.take(true));
    const [whole, all] = actions.count.mock.lastCall as unknown as [BeatGrid, object | null];
    expect([all, whole.beats[0]! < 0.7, whole.beats.at(-1)! > 59]).toEqual([null, true, true]);
  });
  it('taps while nothing plays are refused in a sentence', () => {
    player.playing = false;
    tap(open(), [1]);
    expect(setProblem).toHaveBeenCalledWith('Play the music, and press G on four beats in a row.');
  });
});
