import { useCallback, useEffect, useMemo, useSyncExternalStore } from 'react';
import { useRevalidator } from 'react-router';
import { logDocument, type InitialLog, type LogAbout } from './logDocument';

/** What an editor decides and notes on a page, with its history. */
export function useLog(about: LogAbout, initial: InitialLog) {
  const { revalidate } = useRevalidator();
  const document = logDocument(about, initial);
  const { entries, saving } = useSyncExternalStore(document.subscribe, document.state, document.state);
  useEffect(() => {
    if (document.load(initial)) void revalidate();
  }, [document, initial, revalidate]);
  const commit = useCallback(
    (changes: readonly (readonly [string, unknown])[], join: string | null = null) => document.commit(changes, join),
    [document],
  );
  return useMemo(
    () => ({ entries, state: saving, commit, participant: document }),
    [entries, saving, commit, document],
  );
}
