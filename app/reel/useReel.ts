import { useEffect, useMemo, useSyncExternalStore } from 'react';
import type { Source } from '#core/reel';
import type { LiveReel } from '#usecases/reels';
import { reelDocument, type ReelState } from './reelDocument';
import { useReload } from '../ui/useReload';

type Shown = Omit<ReelState, 'reel'> & { reel: LiveReel | null };
const nothing: Shown = { reel: null, problem: null, instead: null, saving: 'saved' };
const listenToNothing = () => () => undefined;
const nothingThere = () => nothing;

/**
 * A reel under one's hands.
 * @param initial from the loader; null when no reel is open
 */
export function useReel(initial: LiveReel | null, sources: ReadonlyMap<string, Source>) {
  const reload = useReload();
  const document = initial && reelDocument(initial);
  const shown: () => Shown = document?.state ?? nothingThere;
  const state = useSyncExternalStore(document?.subscribe ?? listenToNothing, shown, shown);
  useEffect(() => {
    if (initial && document?.load(initial, sources)) void reload();
  }, [document, initial, sources, reload]);
  return useMemo(
    () => ({
      reel: state.reel,
      problem: state.problem,
      instead: state.instead,
      state: state.saving,
      participant: document,
      /** @returns whether the edit fits; if not, `problem` says why */
      edit: (...[command]: Parameters<NonNullable<typeof document>['edit']>) => document?.edit(command) ?? false,
      restore: (version: number) => document?.restore(version),
      forgetProblem: () => document?.forgetProblem(),
    }),
    [document, state],
  );
}
