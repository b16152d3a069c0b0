// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Reel } from '#core/reel';
import { useVariants } from './useVariants';

const submit = vi.fn();
let saved = Promise.resolve();
vi.mock('react-router', () => ({ useFetcher: () => ({ submit, state: 'idle', data: undefined }) }));
vi.mock('../history/saveQueue', () => ({ afterSaving: (then: () => void) => saved.then(then) }));

const reels = ['Horn', 'Launch', 'Sinking', 'Prize'].map((name) => ({ id: name, document: { name } as Reel }));
const group = (key: number, ...pieces: string[]) => ({ key, name: `Group ${key}`, pieces });

describe('every combination', () => {
  beforeEach(() => submit.mockClear());
  const open = (...groups: ReturnType<typeof group>[]) => renderHook(() => useVariants(groups, reels)).result;

  it('is counted and named; groups with nothing in them do not count', () => {
    const { current } = open(group(0, 'Horn', 'Launch'), group(1), group(2, 'Sinking', 'Prize'));
    expect([current.all, current.most, current.used.length, current.twice.size]).toEqual([4, 4, 2, 0]);
    expect(current.names).toHaveLength(4);
    expect(current.names[0]).toMatch(/Horn.*Sinking/);
  });
  it('or fewer of them, spread over all', () => {
    const result = open(group(0, 'Horn', 'Launch'), group(1, 'Sinking', 'Prize'));
    act(() => result.current.setFew('2'));
    expect([result.current.most, result.current.names.length]).toEqual([2, 2]);
    act(() => result.current.setFew('99'));
    expect(result.current.most).toBe(4);
  });
  it('names that stand twice are found', () => {
    const result = open(group(0, 'Horn', 'Launch'));
    act(() => result.current.setPattern('same'));
    expect(result.current.twice).toEqual(new Set(['same']));
  });
  it('is asked for once everything is saved', async () => {
    let save = () => undefined as void;
    saved = new Promise((done) => (save = done));
    const result = open(group(0, 'Horn', 'Launch'), group(1, 'Prize'));
    act(() => result.current.setRender(false));
    act(() => result.current.make());
    expect(submit).not.toHaveBeenCalled();
    save();
    await saved;
    await vi.waitFor(() => expect(submit).toHaveBeenCalledTimes(1));
    expect(submit.mock.calls[0]![0]).toEqual({
      groups: [
        { name: 'Group 0', pieces: ['Horn', 'Launch'] },
        { name: 'Group 1', pieces: ['Prize'] },
      ],
      most: 2,
      pattern: '{n} {pieces}',
      render: false,
    });
  });
});
