import { useSyncExternalStore } from 'react';

/** Whether the server was there when it was last asked; the same for the whole window. */
let away = false;
const listeners = new Set<() => void>();

export function setAway(next: boolean): void {
  if (next === away) return;
  away = next;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** True while the server does not answer; for the line that says so. */
export const useAway = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => away,
    () => false,
  );
