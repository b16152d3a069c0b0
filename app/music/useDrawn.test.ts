// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import type { PointerEvent as ReactPointerEvent } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useDrawn } from './useDrawn';

describe('drawing along a line of music', () => {
  let handle: HTMLElement;
  beforeEach(() => {
    document.body.innerHTML = '<div data-line><span></span></div>';
    handle = document.querySelector('span')!;
    handle.setPointerCapture = () => undefined;
  });
  /** Ten pixels a second; with Shift to the pixel, else to whole seconds. */
  const open = () => renderHook(() => useDrawn((x, _, free) => (free ? x / 10 : Math.round(x / 10))));
  const press = (hook: ReturnType<typeof open>, onDone: (seconds: number) => void, onPress?: () => void) =>
    act(() =>
      hook.result.current.draw({ what: 'mark', id: 4, seconds: 4, onDone, ...(onPress ? { onPress } : {}) })({
        button: 0,
        clientX: 40,
        pointerId: 1,
        currentTarget: handle,
        preventDefault: () => undefined,
        stopPropagation: () => undefined,
      } as unknown as ReactPointerEvent<HTMLElement>),
    );
  const move = (clientX: number, shiftKey = false) =>
    act(() => void handle.dispatchEvent(new MouseEvent('pointermove', { clientX, shiftKey })));
  const end = (kind: 'pointerup' | 'pointercancel') => act(() => void handle.dispatchEvent(new MouseEvent(kind)));

  it('is where the pointer is while it is drawn, and there when it is let go', () => {
    const hook = open();
    const onDone = vi.fn();
    press(hook, onDone);
    move(68);
    expect([hook.result.current.whereIs('mark', 4, 4), hook.result.current.whereIs('edge', 4, 4)]).toEqual([7, 4]);
    move(66, true);
    expect(hook.result.current.whereIs('mark', 4, 4)).toBe(6.6);
    end('pointerup');
    expect([onDone.mock.calls, hook.result.current.whereIs('mark', 4, 4)]).toEqual([[[6.6]], 4]);
  });
  it('that hardly moved was a press', () => {
    const [onDone, onPress] = [vi.fn(), vi.fn()];
    press(open(), onDone, onPress);
    move(42);
    end('pointerup');
    expect([onDone.mock.calls.length, onPress.mock.calls.length]).toEqual([0, 1]);
  });
  it('that the system took away changes nothing', () => {
    const [onDone, onPress] = [vi.fn(), vi.fn()];
    const hook = open();
    press(hook, onDone, onPress);
    move(90);
    end('pointercancel');
    move(120);
    expect([onDone.mock.calls.length, onPress.mock.calls.length, hook.result.current.whereIs('mark', 4, 4)]).toEqual([
      0, 0, 4,
    ]);
  });
});
