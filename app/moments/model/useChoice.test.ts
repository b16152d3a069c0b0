// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultLimits, defaultMix, defaultPieceLength, type Footage } from '#core/moments';
import { footage } from '../../../core/moments/testFootage';
import type { WorkerAnswer, Ask } from '../../workers/protocol';

/** What was asked of the worker, and how it answers. */
let asked: Ask[] = [];
let hears: ((event: { data: WorkerAnswer }) => void)[] = [];
vi.stubGlobal(
  'Worker',
  class {
    postMessage = (ask: Ask) => void asked.push(ask);
    addEventListener = (_: string, listener: (typeof hears)[number]) => void hears.push(listener);
    removeEventListener = (_: string, listener: (typeof hears)[number]) =>
      void (hears = hears.filter((each) => each !== listener));
  },
);
const answer = (data: Partial<WorkerAnswer>) =>
  act(() => hears.forEach((hear) => hear({ data: data as WorkerAnswer })));
const question = (targetSeconds: number) => ({
  settings: { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength, variety: 50 },
  decisions: [],
  targetSeconds,
  water: null,
  arrangement: 'story' as const,
  columns: 10,
});
const targets = () => asked.flatMap((ask) => (ask.kind === 'choose' ? [ask.targetSeconds] : []));

describe('asking the worker', () => {
  const open = async (files: readonly Footage[] = []) => {
    const { useChoice } = await import('./useChoice');
    return renderHook((props) => useChoice(props), { initialProps: files });
  };
  beforeEach(() => {
    vi.resetModules();
    [asked, hears] = [[], []];
  });

  it('while a choice is being computed only the latest question waits', async () => {
    const { result } = await open();
    act(() => [10, 20, 30, 40].forEach((seconds) => result.current.choose(question(seconds))));
    expect(targets()).toEqual([10]);
    answer({ kind: 'chosen', seconds: 9 });
    expect([targets(), result.current.chosen?.seconds]).toEqual([[10, 40], 9]);
    answer({ kind: 'chosen', seconds: 39 });
    act(() => result.current.choose(question(50)));
    expect(targets()).toEqual([10, 40, 50]);
  });
  it('reasons, what was learnt and what was found do not count as the answer to a choice', async () => {
    const { result } = await open();
    act(() => result.current.choose(question(10)));
    act(() => result.current.choose(question(20)));
    answer({ kind: 'why', media: 'a' });
    answer({ kind: 'learned', preference: null, proposal: null });
    answer({ kind: 'found', text: 'boats' });
    expect(targets()).toEqual([10]);
    expect([result.current.why?.media, result.current.learned?.proposal, result.current.found?.text]).toEqual([
      'a',
      null,
      'boats',
    ]);
  });
  it('a file is handed over once, however often the page shows others', async () => {
    const [a, b] = [footage(5, {}, [], 'a'), footage(5, {}, [], 'b')];
    const { rerender } = await open([a]);
    rerender([a, b]);
    rerender([b]);
    expect(asked.flatMap((ask) => (ask.kind === 'read' ? [ask.footage.id] : []))).toEqual(['a', 'b']);
    expect(asked.flatMap((ask) => (ask.kind === 'footage' ? [ask.numbers] : []))).toEqual([[1], [1, 2], [2]]);
  });
  it('a screen that is closed hears nothing any more', async () => {
    const { unmount } = await open();
    unmount();
    expect(hears).toEqual([]);
  });
});
