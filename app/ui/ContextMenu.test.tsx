// @vitest-environment jsdom
import { act, cleanup, fireEvent, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { showScreen } from '../testScreen';
import { ContextMenu } from './ContextMenu';
import { useShortcuts } from './useShortcuts';

const split = vi.fn<(id: string) => void>();
const renamed = vi.fn<(id: string) => void>();

/** Two pieces, of which one can be split once it is chosen. */
function Pieces() {
  const [chosen, setChosen] = useState<string | null>(null);
  useShortcuts({ split: chosen === 'boat' ? () => split(chosen) : undefined });
  return (
    <ContextMenu
      label="What can be done with the piece"
      entriesAt={(target) => {
        const id = target.getAttribute('data-id');
        if (!id) return [];
        setChosen(id);
        return [
          'line',
          { command: 'split' },
          'line',
          'line',
          { label: 'Rename', act: () => renamed(chosen ?? 'none') },
          { label: 'Delete', isOff: true, act: vi.fn() },
          'line',
        ];
      }}
    >
      <div data-testid="around">
        <span data-id="boat">boat</span>
        <span data-id="duck">duck</span>
        <input aria-label="name" />
      </div>
    </ContextMenu>
  );
}

describe('a menu of the right button', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    showScreen(<Pieces />);
  });
  afterEach(cleanup);
  const open = (element: HTMLElement) => fireEvent.contextMenu(element, { clientX: 5, clientY: 5 });
  const take = async (name: RegExp) => {
    fireEvent.click(screen.getByRole('menuitem', { name }));
    await act(() => new Promise((done) => setTimeout(done, 20)));
  };

  it('chooses what is pressed, and then offers what can be done with it, with the key beside', async () => {
    open(screen.getByText('boat'));
    const item = screen.getByRole('menuitem', { name: 'Split at the playhead' });
    expect([item.getAttribute('aria-disabled'), item.textContent]).toEqual([null, 'Split at the playheadS']);
    await take(/Split/);
    expect(split).toHaveBeenCalledExactlyOnceWith('boat');
  });
  it('what cannot be done now is there and cannot be pressed', async () => {
    open(screen.getByText('duck'));
    expect(screen.getByRole('menuitem', { name: /Split/ }).getAttribute('aria-disabled')).toBe('true');
    expect(screen.getByRole('menuitem', { name: 'Delete' }).getAttribute('aria-disabled')).toBe('true');
    await take(/Rename/);
    expect(renamed).toHaveBeenCalledExactlyOnceWith('duck');
  });
  it('means what is chosen now, not what was chosen when the button went down', async () => {
    open(screen.getByText('boat'));
    await take(/Rename/);
    open(screen.getByText('duck'));
    await take(/Rename/);
    expect(renamed.mock.calls).toEqual([['boat'], ['duck']]);
  });
  it('a finger that only taps chooses nothing; one that stays opens it', async () => {
    const duck = screen.getByText('duck');
    fireEvent.pointerDown(duck, { pointerType: 'touch', clientX: 5, clientY: 5 });
    fireEvent.pointerUp(duck, { pointerType: 'touch' });
    await act(() => new Promise((done) => setTimeout(done, 800)));
    expect(screen.queryByRole('menu')).toBeNull();
    fireEvent.pointerDown(duck, { pointerType: 'touch', clientX: 5, clientY: 5 });
    await act(() => new Promise((done) => setTimeout(done, 800)));
    await take(/Rename/);
    expect(renamed).toHaveBeenCalledExactlyOnceWith('duck');
  });
  it('has a line only between two things', () => {
    open(screen.getByText('boat'));
    expect(screen.getAllByRole('separator')).toHaveLength(1);
  });
  it('where nothing can be done, and in fields, the browser’s own menu comes', () => {
    // `fireEvent` answers whether nobody kept the browser from what it usually does.
    expect(open(screen.getByTestId('around'))).toBe(true);
    expect(open(screen.getByRole('textbox'))).toBe(true);
    expect(screen.queryByRole('menu')).toBeNull();
    expect(open(screen.getByText('boat'))).toBe(false);
  });
});
