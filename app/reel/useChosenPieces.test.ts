// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { applyCommand, assembleReel, clipsAbove, clipsBeside, planSound, type Reel } from '#core/reel';
import { rates } from '#core/time';
import { testSources } from '../../core/reel/testEdits';
import { useChosenPieces } from './useChosenPieces';

/** Five pieces of two seconds, the third of them lifted: A B gap D E, and one above the first. */
function start(): Reel {
  let next = 0;
  const pieces = [0, 3, 6, 9, 12].map((from) => ({ media: 'a', start: from, end: from + 2, name: `from ${from}` }));
  const reel = assembleReel(
    'Pond',
    pieces,
    testSources,
    rates['25'],
    { width: 16, height: 16 },
    () => 'ABCDE'[next++]!,
  );
  const above = { id: 'X', media: 'a', name: 'above', sourceIn: 500, frames: 20 };
  return [
    { type: 'lift' as const, clip: 'C' },
    { type: 'put' as const, how: 'above' as const, at: 10, clips: [above] },
  ].reduce((now, command) => {
    const result = applyCommand(now, command, testSources);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
}

const around = (document: Reel, time = 0, playing = false) => ({
  document,
  segments: planSound(document),
  above: clipsAbove(document),
  beside: clipsBeside(document),
  time,
  playing,
});

describe('which pieces are chosen', () => {
  const open = (time = 0) => renderHook((props) => useChosenPieces(props), { initialProps: around(start(), time) });
  const ids = ({ result }: ReturnType<typeof open>) => result.current.chosen.map((clip) => clip.id);

  it('without a choice the one under the playhead', () => {
    const hook = open(3);
    expect([hook.result.current.clip?.id, hook.result.current.index, ids(hook)]).toEqual(['B', 1, ['B']]);
    hook.rerender(around(start(), 9));
    expect(hook.result.current.clip?.id).toBe('E');
  });
  it('one, others beside it, and away again', () => {
    const hook = open();
    act(() => hook.result.current.choose('B'));
    act(() => hook.result.current.choose('D', 'add'));
    act(() => hook.result.current.choose('A', 'add'));
    expect(ids(hook)).toEqual(['A', 'B', 'D']);
    act(() => hook.result.current.choose('D', 'add'));
    expect(ids(hook)).toEqual(['A', 'B']);
    // The chosen one itself stays.
    act(() => hook.result.current.choose('B', 'add'));
    expect(ids(hook)).toEqual(['A', 'B']);
    act(() => hook.result.current.choose('E'));
    expect(ids(hook)).toEqual(['E']);
  });
  it('everything between two, in whichever direction, without gaps', () => {
    const hook = open();
    act(() => hook.result.current.choose('B'));
    act(() => hook.result.current.choose('E', 'upTo'));
    expect(ids(hook)).toEqual(['B', 'D', 'E']);
    act(() => hook.result.current.choose('E'));
    act(() => hook.result.current.choose('A', 'upTo'));
    expect(ids(hook)).toEqual(['A', 'B', 'D', 'E']);
  });
  it('all of the main track', () => {
    const hook = open();
    act(() => hook.result.current.chooseAll());
    expect(ids(hook)).toEqual(['A', 'B', 'D', 'E']);
  });
  it('one that lies above is found as well', () => {
    const hook = open();
    act(() => hook.result.current.choose('X'));
    expect([hook.result.current.clip?.id, hook.result.current.found?.trackIndex]).toEqual(['X', 1]);
  });
  it('while the reel plays, the one that is shown; what was chosen is forgotten', () => {
    const hook = open();
    act(() => hook.result.current.choose('A'));
    act(() => hook.result.current.choose('B', 'add'));
    hook.rerender(around(start(), 6.5, true));
    expect([hook.result.current.selectedId, ids(hook)]).toEqual(['D', ['D']]);
  });
  it('one that an edit took out gives way to what lies under the playhead', () => {
    const hook = open();
    act(() => hook.result.current.choose('E'));
    const without = applyCommand(start(), { type: 'remove', clip: 'E' }, testSources);
    hook.rerender(around(without.ok ? without.reel : start(), 3));
    expect(hook.result.current.clip?.id).toBe('B');
  });
  it('nothing in an empty reel', () => {
    const empty = { ...start(), tracks: [{ kind: 'picture' as const, name: 'Main', items: [] }] };
    const { result } = renderHook(() => useChosenPieces(around(empty)));
    expect([result.current.segment, result.current.clip, result.current.chosen]).toEqual([null, null, []]);
    act(() => result.current.chooseAll());
    expect(result.current.chosen).toEqual([]);
  });
});
