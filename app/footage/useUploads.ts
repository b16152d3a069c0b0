import { useEffect, useSyncExternalStore } from 'react';
import { uploadsOf, type UploadState } from './uploadQueue';
import { useReload } from '../ui/useReload';

const nothing: UploadState = { lines: [], total: null, brokenOff: [], arrived: new Set() };
/** The list of items follows arrivals, but not each of hundreds. */
const followEvery = 1200;

/** The uploads of a project, and what was broken off; the page asks before it is left while any are on their way. */
export function useUploads(projectId: string) {
  const queue = uploadsOf(projectId);
  const state = useSyncExternalStore(queue.subscribe, queue.state, () => nothing);
  const reload = useReload();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    const end = queue.onArrival(() => {
      timer ??= setTimeout(() => {
        timer = null;
        void reload();
      }, followEvery);
    });
    void queue.findBrokenOff();
    return () => {
      end();
      if (timer) clearTimeout(timer);
    };
  }, [queue, reload]);
  const isBusy = state.total !== null;
  useEffect(() => {
    if (!isBusy) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [isBusy]);
  return { queue, ...state };
}
