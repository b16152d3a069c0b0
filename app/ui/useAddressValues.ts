import { useCallback, useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';

/**
 * What stands in the address and is nothing to the server: how something is looked at. It changes at once, however fast
 * one change follows another, is there after a reload, and goes along when the address is copied.
 */
export function useAddressValues(): [values: URLSearchParams, set: (name: string, value: string | null) => void] {
  const [given] = useSearchParams();
  const [values, setValues] = useState(given);
  // Another address was gone to.
  useEffect(() => setValues(given), [given]);
  useEffect(() => {
    const address = new URL(window.location.href);
    address.search = values.toString();
    if (address.href !== window.location.href) window.history.replaceState(window.history.state, '', address);
  }, [values]);
  const set = useCallback(
    (name: string, value: string | null) =>
      setValues((now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(name, value);
        else next.delete(name);
        return next;
      }),
    [],
  );
  return [values, set];
}
