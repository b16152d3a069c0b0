// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { forgetGivenUp } from './givenUp';

describe('what was given up', () => {
  const page = new EventTarget();
  forgetGivenUp(page);
  /** Whether the browser would report it. */
  const isReported = (reason: unknown) =>
    page.dispatchEvent(Object.assign(new Event('unhandledrejection', { cancelable: true }), { reason }));

  it('is no fault, whatever controller it was given up by', () => {
    const stop = new AbortController();
    stop.abort();
    expect(isReported(stop.signal.reason)).toBe(false);
  });
  it('is told from what went wrong', () => {
    expect(isReported(new TypeError('Failed to fetch'))).toBe(true);
    expect(isReported(new DOMException('took too long', 'TimeoutError'))).toBe(true);
    expect(isReported(undefined)).toBe(true);
  });
});
