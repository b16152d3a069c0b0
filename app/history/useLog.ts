import { useCallback, useEffect, useMemo, useRef, useSyncExternalStore } from 'react';
import { logDocument, type LogDocument, type InitialLog, type LogAbout } from './logDocument';
import { useReload } from '../ui/useReload';

/** What an editor decides and notes on a page, with its history. */
export function useLog(about: LogAbout, initial: InitialLog) {
  const reload = useReload();
  const document = logDocument(about, initial);
  const { entries, saving } = useSyncExternalStore(document.subscribe, document.state, document.state);
  const opened = useRef<LogDocument | null>(null);
  useEffect(() => {
    const isStale = document.load(initial);
    // Once, when the screen opens: what is loaded then says all that is saved by now.
    if (isStale && opened.current !== document) void reload();
    opened.current = document;
  }, [document, initial, reload]);
  const commit = useCallback(
    (changes: readonly (readonly [string, unknown])[], join: string | null = null) => document.commit(changes, join),
    [document],
  );
  return useMemo(
    () => ({ entries, state: saving, commit, participant: document }),
    [entries, saving, commit, document],
  );
}
