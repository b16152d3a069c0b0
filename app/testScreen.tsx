import { render } from '@testing-library/react';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { createRoutesStub } from 'react-router';

/** The DOM of tests lays nothing out: nothing ever comes onto its screen, or changes its size. */
class NothingSeen {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.IntersectionObserver ??= NothingSeen as unknown as typeof IntersectionObserver;
globalThis.ResizeObserver ??= NothingSeen;

/** For tests: shows a part of a screen as the application does, with links, forms and tooltips. */
export function showScreen(screen: ReactNode): void {
  const Stub = createRoutesStub([{ path: '/', Component: () => <Tooltip.Provider>{screen}</Tooltip.Provider> }]);
  render(<Stub />);
}
