// @vitest-environment jsdom
import { act, cleanup, fireEvent, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { captionLines, captionRules, type CaptionLine } from '#core/captions';
import type { ReelDesk } from '../reel/useReelDesk';
import { useTaps } from './useTaps';

const heard = ['The', 'boats', 'are', 'paper.', 'They', 'will', 'sink.'].map((text, index) => ({
  text,
  start: 10 + index * 0.5,
  end: 10.4 + index * 0.5,
  confidence: 1,
  media: 'a',
  index,
  breakAfter: index === 3 ? true : undefined,
}));
const captions: CaptionLine[] = captionLines(heard, captionRules);

describe('tapping the times of captions', () => {
  let time = 0;
  const [edit, seek, play, pause] = [vi.fn(), vi.fn(), vi.fn(), vi.fn()];
  beforeEach(() => [edit, seek, play, pause].forEach((each) => each.mockClear()));
  afterEach(cleanup);
  const open = () =>
    renderHook(() =>
      useTaps(
        {
          captions,
          player: { exact: () => time, seek, play, pause },
          segments: [{ startSeconds: 0, endSeconds: 20 }],
          spoken: { edit },
          reel: { projectId: 'p' },
        } as unknown as ReelDesk,
        (seconds) => seconds,
      ),
    ).result;
  const tapAt = (seconds: number, key = 't') => {
    time = seconds;
    fireEvent.keyDown(document.body, { key });
  };

  it('there are two captions in what was said', () => expect(captions).toHaveLength(2));
  it('plays from the start, counts taps, and keeps the times as one edit of the words', () => {
    const hook = open();
    expect(hook.current.count).toBeNull();
    act(() => hook.current.start());
    expect([hook.current.count, seek.mock.calls, play.mock.calls.length]).toEqual([0, [[0]], 1]);
    act(() => tapAt(11));
    act(() => tapAt(13.5, 'T'));
    expect(hook.current.count).toBe(2);
    act(() => hook.current.keep());
    expect([pause.mock.calls.length, hook.current.count]).toEqual([1, null]);
    const [media, command] = edit.mock.calls[0] as [string, { type: string; from: number; starts: number[] }];
    expect([media, command.type, command.from, command.starts[0]]).toEqual(['a', 'retime', 0, 11]);
    // The second caption begins with its fifth word.
    expect(edit.mock.calls.flatMap(([, each]) => (each as typeof command).starts)).toContain(13.5);
  });
  it('a tap that comes twice counts once, and no more than there are captions', () => {
    const hook = open();
    act(() => hook.current.start());
    act(() => tapAt(11));
    act(() => tapAt(11.05));
    expect(hook.current.count).toBe(1);
    for (const seconds of [12, 13, 14]) act(() => tapAt(seconds));
    expect(hook.current.count).toBe(2);
  });
  it('Escape leaves the times as they were; before that nothing is tapped', () => {
    const hook = open();
    act(() => tapAt(11));
    expect(hook.current.count).toBeNull();
    act(() => hook.current.start());
    act(() => tapAt(11));
    act(() => tapAt(12, 'Escape'));
    expect([hook.current.count, edit.mock.calls.length]).toEqual([null, 0]);
  });
});
