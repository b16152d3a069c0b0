// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { Tooltip } from 'radix-ui';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { keepKeys, keySets } from '../keys';
import { KeySheet } from './KeySheet';
import { useShortcuts } from './useShortcuts';

const acts = { split: vi.fn(), lift: vi.fn() };
function Screen() {
  useShortcuts(acts);
  return (
    <Tooltip.Provider>
      <KeySheet open onOpenChange={() => undefined} sets={[['In the reel', keySets.reel]]} />
    </Tooltip.Provider>
  );
}
const press = (key: string) => fireEvent.keyDown(document.body, { key, code: `Key${key.toUpperCase()}` });
beforeEach(() => {
  keepKeys({ used: null, sets: {} });
  render(<Screen />);
});
afterEach(cleanup);

it('is looked through by what a key does, and by the key', () => {
  fireEvent.change(screen.getByLabelText('Find a key'), { target: { value: 'freeze' } });
  expect(screen.getAllByRole('definition').map((each) => each.textContent)).toEqual([
    'Freeze the frame at the playhead for two seconds',
  ]);
  fireEvent.change(screen.getByLabelText('Find a key'), { target: { value: 's' } });
  expect(screen.getByText('Split the piece at the playhead')).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Find a key'), { target: { value: 'whale' } });
  expect(screen.getByText('No command of this screen is called that.')).toBeTruthy();
});

it('a command takes another key, from another command only when that is wanted', () => {
  fireEvent.click(screen.getByRole('button', { name: 'Change keys' }));
  const lift = screen.getByRole('button', { name: /^Another key for: Lift/ });
  fireEvent.click(lift);
  press('s');
  expect(acts.split).not.toHaveBeenCalled();
  const asked = screen.getByRole('alert');
  expect(asked.textContent).toContain('S is: Split the piece at the playhead');
  fireEvent.click(within(asked).getByRole('button', { name: 'Take it from there' }));
  expect(lift.textContent).toBe('S');
  press('s');
  expect([acts.lift.mock.calls.length, acts.split.mock.calls.length]).toEqual([1, 0]);
  fireEvent.click(lift);
  fireEvent.keyDown(document.body, { key: 'w', code: 'KeyW', ctrlKey: true });
  expect(screen.getByRole('alert').textContent).toContain('Ctrl W is kept by the browser');
  fireEvent.change(screen.getByLabelText('Set of keys'), { target: { value: '' } });
  expect(lift.textContent).toBe('E');
});
