// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { pointer } from '../hands/testPointer';
import { useDrawn } from './useDrawn';

const [onDone, onPress] = [vi.fn(), vi.fn()];

/** Ten pixels a second; with Shift to the pixel, else to whole seconds. */
function Line() {
  const { draw, whereIs } = useDrawn((x, _, free) => (free ? x / 10 : Math.round(x / 10)));
  return (
    <div data-line>
      <button type="button" {...draw({ what: 'mark', id: 4, seconds: 4, onDone, onPress })}>
        {whereIs('mark', 4, 4)} {whereIs('edge', 4, 4)}
      </button>
    </div>
  );
}

describe('drawing along a line of music', () => {
  beforeEach(() => {
    cleanup();
    vi.clearAllMocks();
    render(<Line />);
  });
  const mark = () => screen.getByRole('button');

  it('is where the pointer is while it is drawn, and there when it is let go', () => {
    pointer.press(mark(), 40);
    pointer.move(68);
    expect(mark().textContent).toBe('7 4');
    pointer.move(66, 0, { shiftKey: true });
    expect(mark().textContent).toBe('6.6 4');
    pointer.letGo(66);
    expect([onDone.mock.calls, mark().textContent]).toEqual([[[6.6]], '4 4']);
  });
  it('that hardly moved was a press', () => {
    pointer.press(mark(), 40);
    pointer.move(42);
    pointer.letGo(42);
    expect([onDone.mock.calls.length, onPress.mock.calls.length]).toEqual([0, 1]);
  });
  it('put back by Escape it changes nothing', async () => {
    pointer.press(mark(), 40);
    pointer.move(90);
    await pointer.escape();
    pointer.letGo(120);
    expect([onDone.mock.calls.length, onPress.mock.calls.length, mark().textContent]).toEqual([0, 0, '4 4']);
  });
});
