// @vitest-environment jsdom
import { cleanup, fireEvent, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { liveCommands, useShortcuts } from './useShortcuts';

const codes: Record<string, string> = { ' ': 'Space', '?': 'Slash', '+': 'Equal' };
const codeOf = (key: string) => codes[key] ?? (key.length === 1 ? `Key${key.toUpperCase()}` : key);

describe('shortcuts', () => {
  const actions = { play: vi.fn(), frameOn: vi.fn(), markIn: vi.fn(), undo: vi.fn(), redo: vi.fn(), append: vi.fn() };
  beforeEach(() => {
    document.body.innerHTML = '';
    for (const action of Object.values(actions)) action.mockClear();
    renderHook(() => useShortcuts(actions));
  });
  afterEach(cleanup);
  const press = (key: string, target: Element = document.body, keys: KeyboardEventInit = {}) => {
    fireEvent.keyDown(target, { key, code: codeOf(key), ...keys });
    fireEvent.keyUp(target, { key, code: codeOf(key), ...keys });
  };
  const made = (html: string): HTMLElement => {
    document.body.innerHTML = html;
    return document.body.querySelector('[data-here]') ?? (document.body.firstElementChild as HTMLElement);
  };

  it('do what they are bound to', () => {
    press(' ');
    press('i');
    press('ArrowRight');
    press('z', document.body, { ctrlKey: true });
    press('z', document.body, { ctrlKey: true, shiftKey: true });
    press('y', document.body, { ctrlKey: true });
    const times = [actions.play, actions.markIn, actions.frameOn, actions.undo, actions.redo].map(
      (action) => action.mock.calls.length,
    );
    expect(times).toEqual([1, 1, 1, 1, 2]);
  });
  it('are listed while their screen is open, and do the same from there', () => {
    const { unmount } = renderHook(() => useShortcuts({ split: actions.append, play: undefined }));
    expect(liveCommands().map(({ name }) => name)).toEqual([...Object.keys(actions), 'split']);
    liveCommands().at(-1)!.act();
    expect(actions.append).toHaveBeenCalledOnce();
    unmount();
    expect(liveCommands().map(({ name }) => name)).not.toContain('split');
  });
  it('a letter with Control is another key', () => {
    press('i', document.body, { ctrlKey: true });
    expect(actions.markIn).not.toHaveBeenCalled();
  });
  it.each([
    ['<input>', 'text'],
    ['<textarea></textarea>', 'text'],
  ])('what is typed into %s stays there', (html) => {
    const field = made(html);
    for (const key of ['i', ' ', 'ArrowRight']) press(key, field);
    press('z', field, { ctrlKey: true });
    expect(Object.values(actions).every((action) => action.mock.calls.length === 0)).toBe(true);
  });
  it('a list keeps letters, arrows and Space, but not what goes with Control', () => {
    const list = made('<select><option>a</option></select>');
    for (const key of ['i', ' ', 'ArrowRight']) press(key, list);
    press('z', list, { ctrlKey: true });
    expect([actions.markIn, actions.play, actions.frameOn, actions.undo].map((each) => each.mock.calls.length)).toEqual(
      [0, 0, 0, 1],
    );
  });
  it('a radio button keeps arrows and Space, a check box Space, a slider arrows', () => {
    const radio = made('<input type="radio">');
    for (const key of ['i', ' ', 'ArrowRight']) press(key, radio);
    expect([actions.markIn, actions.play, actions.frameOn].map((each) => each.mock.calls.length)).toEqual([1, 0, 0]);
    const box = made('<input type="checkbox">');
    for (const key of ['i', ' ', 'ArrowRight']) press(key, box);
    expect([actions.markIn, actions.play, actions.frameOn].map((each) => each.mock.calls.length)).toEqual([2, 0, 1]);
    const slider = made('<input type="range">');
    for (const key of ['i', ' ', 'ArrowRight']) press(key, slider);
    expect([actions.markIn, actions.play, actions.frameOn].map((each) => each.mock.calls.length)).toEqual([3, 1, 1]);
  });
  it('a button that the keys went to keeps Space and Enter; one that was pressed with the pointer does not', () => {
    const button = made('<button>Split</button>');
    press(' ', button);
    press('Enter', button);
    expect([actions.play, actions.append].map((each) => each.mock.calls.length)).toEqual([0, 0]);
    fireEvent.pointerDown(button);
    press(' ', button);
    press('Enter', button);
    expect([actions.play, actions.append].map((each) => each.mock.calls.length)).toEqual([1, 1]);
    // With Tab the keys come back to it.
    fireEvent.keyDown(button, { key: 'Tab', code: 'Tab' });
    press(' ', button);
    expect(actions.play).toHaveBeenCalledTimes(1);
  });
  it('a dialog keeps Space and Enter for its buttons, however they were pressed', () => {
    const button = made('<div role="dialog"><button data-here>Yes</button></div>');
    fireEvent.pointerDown(button);
    press('Enter', button);
    expect(actions.append).not.toHaveBeenCalled();
  });
  it('pieces of a reel are not buttons in this sense', () => {
    press(' ', made('<button data-piece="a">A</button>'));
    expect(actions.play).toHaveBeenCalledTimes(1);
  });
});
