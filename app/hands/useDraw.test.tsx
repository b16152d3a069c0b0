// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useRef } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { pointer } from './testPointer';
import { useDraw, type DrawPoint } from './useDraw';

type Said = [what: string, x?: number, y?: number];
let said: Said[] = [];
let keys: Pick<DrawPoint, 'shiftKey' | 'altKey'> | null = null;
const onClick = vi.fn();

function Strip({ canBegin = true }: { canBegin?: boolean }) {
  const scroller = useRef<HTMLDivElement>(null);
  const draw = useDraw<string>(
    {
      begin: (press, element, of) => {
        said.push([`begin ${of} on ${element.id}`, press.clientX, press.clientY]);
        return canBegin
          ? {
              move: (at) => {
                said.push(['move', at.byX, at.byY]);
                keys = { shiftKey: at.shiftKey, altKey: at.altKey };
              },
              done: (at) => said.push(['done', at.byX, at.byY]),
              left: () => said.push(['left']),
            }
          : null;
      },
      tap: (press, _, of) => said.push([`tap ${of}`, press.clientX]),
    },
    scroller,
  );
  return (
    <div ref={scroller} data-testid="scroller">
      <button type="button" id="edge" onClick={onClick} {...draw('A')} />
    </div>
  );
}

beforeEach(() => {
  cleanup();
  said = [];
  onClick.mockClear();
});
const open = (canBegin = true) => {
  const shown = render(<Strip canBegin={canBegin} />);
  return { edge: screen.getByRole('button'), ...shown };
};

describe('drawing with a pointer', () => {
  it('begins where it was pressed, follows, and is done when it is let go; no click follows', () => {
    const { edge } = open();
    pointer.press(edge, 100, 20);
    pointer.move(102, 21);
    expect(said).toEqual([]);
    pointer.move(110, 25, { shiftKey: true, altKey: true });
    pointer.move(90, 30);
    pointer.letGo(90, 30);
    fireEvent.click(edge, { detail: 1 });
    expect(said).toEqual([
      ['begin A on edge', 100, 20],
      ['move', 10, 5],
      ['move', -10, 10],
      ['done', -10, 10],
    ]);
    expect(keys).toEqual({ shiftKey: false, altKey: false });
    expect(onClick).not.toHaveBeenCalled();
  });
  it('that hardly moves is a tap, and its click counts', () => {
    const { edge } = open();
    pointer.press(edge, 100);
    pointer.move(101);
    pointer.letGo(101);
    fireEvent.click(edge, { detail: 1 });
    expect([said, onClick.mock.calls.length]).toEqual([[['tap A', 101]], 1]);
  });
  it('Escape leaves it, and nobody else hears that key; what follows is nothing', async () => {
    const { edge } = open();
    const other = vi.fn();
    window.addEventListener('keydown', other);
    pointer.press(edge, 100);
    pointer.move(150);
    await pointer.escape();
    pointer.move(180);
    pointer.letGo(180);
    expect(said).toEqual([['begin A on edge', 100, 0], ['move', 50, 0], ['left']]);
    expect(other).not.toHaveBeenCalled();
    expect(document.documentElement.dataset.drawing).toBeUndefined();
    // The next one is like the first.
    pointer.press(edge, 10);
    pointer.move(20);
    pointer.letGo(20);
    expect(said.at(-1)).toEqual(['done', 10, 0]);
    await pointer.escape();
    expect(other).toHaveBeenCalledOnce();
    window.removeEventListener('keydown', other);
  });
  it('that the system takes away, to scroll, leaves it as well', () => {
    const { edge } = open();
    pointer.press(edge, 100);
    pointer.move(150);
    pointer.takeAway(150);
    expect(said.at(-1)).toEqual(['left']);
    pointer.press(edge, 100);
    pointer.takeAway(100);
    expect(said.filter(([what]) => what === 'tap A')).toEqual([]);
  });
  it('a screen that is closed meanwhile leaves it', () => {
    const { edge, unmount } = open();
    pointer.press(edge, 100);
    pointer.move(150);
    expect(document.documentElement.dataset.drawing).toBe('');
    unmount();
    expect(said.at(-1)).toEqual(['left']);
    expect(document.documentElement.dataset.drawing).toBeUndefined();
  });
  it('other buttons draw nothing, nor where nothing begins', () => {
    const { edge } = open(false);
    pointer.press(edge, 100, 0, { buttons: 2 });
    pointer.move(150);
    pointer.letGo(150);
    expect(said).toEqual([]);
    pointer.press(edge, 100);
    pointer.move(150);
    pointer.move(160);
    pointer.letGo(160);
    expect(said).toEqual([['begin A on edge', 100, 0]]);
  });
  it('what scrolls goes on at its edge while the pointer stands there, and the drawing with it', async () => {
    const { edge } = open();
    const scroller = screen.getByTestId('scroller');
    scroller.getBoundingClientRect = () => ({ top: 0, bottom: 400 }) as DOMRect;
    let top = 0;
    Object.defineProperty(scroller, 'scrollTop', {
      get: () => top,
      set: (wanted: number) => (top = Math.min(200, Math.max(0, wanted))),
    });
    pointer.press(edge, 0, 200);
    pointer.move(0, 300);
    await new Promise((wake) => setTimeout(wake, 60));
    expect(scroller.scrollTop).toBe(0);
    pointer.move(0, 395);
    await vi.waitFor(() => expect(scroller.scrollTop).toBeGreaterThan(30));
    pointer.move(0, 2);
    await vi.waitFor(() => expect(scroller.scrollTop).toBe(0));
    const moves = said.filter(([what]) => what === 'move').length;
    expect(moves).toBeGreaterThan(5);
    pointer.letGo(0, 2);
    await new Promise((wake) => setTimeout(wake, 40));
    expect(said.filter(([what]) => what === 'move')).toHaveLength(moves);
  });
});
