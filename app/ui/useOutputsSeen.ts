import { useEffect, useSyncExternalStore } from 'react';
import type { ProjectData } from '#usecases/projects';

const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};
const keyOf = (projectId: string) => `outputs seen ${projectId}`;
/** More are over for a day before they are looked at nowhere. */
const mostKept = 300;

/** Where a browser keeps nothing, everything is new until the page is left. */
function read(projectId: string): string {
  try {
    return localStorage.getItem(keyOf(projectId)) ?? '';
  } catch {
    return '';
  }
}

/** Ids of the renders whose outcome was looked at in this browser; being at Outputs is looking at all. */
export function useOutputsSeen(projectId: string, isThere: boolean, tasks: ProjectData['tasks']): ReadonlySet<string> {
  const kept = useSyncExternalStore(
    subscribe,
    () => read(projectId),
    () => null,
  );
  const over = tasks
    .filter(({ kind, state }) => (kind === 'render' || kind === 'post') && (state === 'done' || state === 'failed'))
    .map(({ id }) => id)
    .join();
  useEffect(() => {
    if (!isThere || over === '') return;
    const all = [...new Set([...over.split(','), ...read(projectId).split(',')])].filter(Boolean);
    try {
      localStorage.setItem(keyOf(projectId), all.slice(0, mostKept).join());
    } catch {
      return;
    }
    for (const listener of listeners) listener();
  }, [isThere, over, projectId]);
  // On the server nothing is new.
  return new Set(kept === null ? over.split(',') : kept.split(','));
}
