import { useCallback, useEffect, useState } from 'react';
import { useFetcher } from 'react-router';

/**
 * What stands at an address: asked for at first, whenever `version` changes, and when that is wished. One question after
 * the other: a question that the next one breaks off would be told as a fault.
 * @param isWanted while it is false nothing is asked
 */
export function useAsked<T>(
  address: string,
  version: unknown,
  isWanted = true,
): { data: T | undefined; askAgain(): void } {
  const { load, data, state } = useFetcher<T>();
  const [isDue, setDue] = useState(false);
  useEffect(() => setDue(true), [address, version, isWanted]);
  useEffect(() => {
    if (!isDue || !isWanted || state !== 'idle') return;
    setDue(false);
    void load(address);
  }, [isDue, isWanted, state, load, address]);
  return { data: data as T | undefined, askAgain: useCallback(() => setDue(true), []) };
}
