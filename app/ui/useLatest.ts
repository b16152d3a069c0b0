import { useInsertionEffect, useRef, type RefObject } from 'react';

/** The value of the render that is shown, for handlers, timers and requests that were begun in an earlier one. */
export function useLatest<T>(value: T): RefObject<T> {
  const latest = useRef(value);
  // Before all other effects, so that they see it as well.
  useInsertionEffect(() => {
    latest.current = value;
  });
  return latest;
}
