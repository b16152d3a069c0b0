// @vitest-environment jsdom
import { act, cleanup, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { createMemoryRouter, RouterProvider, useNavigate } from 'react-router';
import { afterEach, expect, it } from 'vitest';
import { useAddressValues } from './useAddressValues';

afterEach(cleanup);
let go: (to: string) => unknown;
function show(first: string) {
  window.history.replaceState(null, '', first);
  const wrapper = ({ children }: { children: ReactNode }) => {
    const Screen = () => {
      go = useNavigate();
      return children;
    };
    return (
      <RouterProvider router={createMemoryRouter([{ path: '*', Component: Screen }], { initialEntries: [first] })} />
    );
  };
  return renderHook(() => useAddressValues(), { wrapper }).result;
}

it('keeps every change, however fast one follows another, and in the address', () => {
  const shown = show('/footage?bin=7&find=boat');
  act(() => {
    shown.current[1]('find', '');
    shown.current[1]('show', 'sound');
    shown.current[1]('sort', '-length');
  });
  expect(shown.current[0].toString()).toBe('bin=7&show=sound&sort=-length');
  expect(window.location.search).toBe('?bin=7&show=sound&sort=-length');
});
it('an address that is gone to counts', async () => {
  const shown = show('/footage?bin=7');
  await act(async () => void (await go('/footage?bin=8')));
  expect(shown.current[0].get('bin')).toBe('8');
});
