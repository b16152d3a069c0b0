import { useSyncExternalStore } from 'react';

/** Why nothing can be asked just now: the server is not there, or it wants the password again. */
type Away = 'away' | 'locked';
export interface Outage {
  why: Away;
  /** Milliseconds, as `Date.now` counts. */
  since: number;
}

/** Whether the server was there when it was last asked; the same for the whole window. */
let outage: Outage | null = null;
const listeners = new Set<() => void>();

export function setAway(next: boolean | Away): void {
  const why = next === true ? 'away' : next || null;
  if (why === (outage?.why ?? null)) return;
  outage = why && { why, since: outage?.since ?? Date.now() };
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const outageNow = (): Outage | null => outage;

/** Since when and why the server does not answer; null while it does. */
export const useOutage = (): Outage | null => useSyncExternalStore(subscribe, outageNow, () => null);

/** True while the server does not answer; for the line that says so. */
export const useAway = (): boolean => useOutage() !== null;

/** What the status of an answer says of the connection. */
export const awayBy = (status: number): boolean | Away => (status === 401 ? 'locked' : status >= 500);
