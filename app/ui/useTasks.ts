import { useEffect, useSyncExternalStore } from 'react';
import type { TaskLine } from '#usecases/tasks';
import { awayBy, outageNow, setAway } from './connection';
import { joinLine, type EventsTold } from './eventLine';
import { repeatedly, throttled } from './repeatedly';
import { useLatest } from './useLatest';
import { windowName } from './windowName';

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

function publish(projectId: string, tasks: TaskLine[]): void {
  known = { projectId, tasks };
  for (const listener of listeners) listener();
}

/** While the line to the server is there it is asked so seldom, in case something went by. */
const seldomMilliseconds = 30_000;
/** Changes of others that follow each other are looked at so often. */
const changesMilliseconds = 1000;

/**
 * Hears of the tasks of a project and of what others change in it; while there is no line for events, it asks again and
 * again. While the server is away, what was heard last stays.
 * @param onChanged something was changed elsewhere, or may have been
 */
export function useProjectEvents(projectId: string, everyMilliseconds: number, onChanged: () => void): void {
  const every = useLatest(everyMilliseconds);
  const changed = useLatest(onChanged);
  useEffect(() => {
    const stop = new AbortController();
    // Where the playhead stands goes along: that is read first.
    let told = { at: '', when: -Infinity };
    const ask = async () => {
      const at = new URLSearchParams(location.search).get('at') ?? '';
      if (line.isOpen && !outageNow() && at === told.at && Date.now() - told.when < seldomMilliseconds) return;
      told = { at, when: Date.now() };
      const address = `/projects/${projectId}/tasks${at ? `?at=${encodeURIComponent(at)}` : ''}`;
      const answer = await fetch(address, { signal: stop.signal }).catch(() => null);
      if (stop.signal.aborted) return;
      setAway(answer ? awayBy(answer.status) : true);
      const tasks = answer?.ok ? ((await answer.json().catch(() => null)) as TaskLine[] | null) : null;
      if (tasks && !stop.signal.aborted) publish(projectId, tasks);
    };
    const askNow = () => {
      told.when = -Infinity;
      void ask();
    };
    const look = throttled(() => changed.current(), changesMilliseconds);
    const line = { isOpen: false, wasOpen: false };
    const hear = (event: EventsTold) => {
      if (event.what === 'line') {
        line.isOpen = event.isOpen;
        if (!event.isOpen || line.wasOpen) askNow();
        // What happened while there was none is not known.
        if (event.isOpen && line.wasOpen) look();
        line.wasOpen ||= event.isOpen;
        return;
      }
      setAway(false);
      if (event.what === 'tasks') publish(projectId, event.tasks);
      else if (event.by !== windowName) look();
    };
    const endLine = joinLine(projectId, hear);
    const end = repeatedly(ask, () => every.current);
    return () => {
      endLine();
      end();
      look.end();
      stop.abort();
    };
  }, [projectId, every, changed]);
}
