import { useEffect, useSyncExternalStore } from 'react';
import type { TaskLine } from '#usecases/tasks';
import { awayBy, setAway } from './connection';
import { repeatedly } from './repeatedly';

/** The tasks of a project as they were last heard of; the top bar asks, other places look on. */
let known: { projectId: string; tasks: TaskLine[] } | null = null;
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** @returns the tasks, or null before they were asked for */
export const useTasks = (projectId: string): TaskLine[] | null =>
  useSyncExternalStore(
    subscribe,
    () => (known?.projectId === projectId ? known.tasks : null),
    () => null,
  );

/** Asks for the tasks again and again; while the server is away, what was heard last stays. */
export function usePolledTasks(projectId: string, everyMilliseconds: number): void {
  useEffect(() => {
    const stop = new AbortController();
    const ask = async () => {
      // Where the playhead stands goes along: that is read first.
      const at = new URLSearchParams(location.search).get('at');
      const address = `/projects/${projectId}/tasks${at ? `?at=${encodeURIComponent(at)}` : ''}`;
      const answer = await fetch(address, { signal: stop.signal }).catch(() => null);
      if (stop.signal.aborted) return;
      setAway(answer ? awayBy(answer.status) : true);
      if (!answer?.ok) return;
      const tasks = (await answer.json().catch(() => null)) as TaskLine[] | null;
      if (!tasks || stop.signal.aborted) return;
      known = { projectId, tasks };
      for (const listener of listeners) listener();
    };
    const end = repeatedly(ask, everyMilliseconds);
    return () => {
      end();
      stop.abort();
    };
  }, [projectId, everyMilliseconds]);
}
