import { useCallback, useEffect, useRef, type RefObject } from 'react';
import { useNavigation, useRevalidator } from 'react-router';
import { useLatest } from './useLatest';

let running: Promise<void> | null = null;
let next: Promise<void> | null = null;

/** One load after the other; whoever asks while one is under way shares the one after it. */
function load(revalidate: () => Promise<void>): Promise<void> {
  if (running)
    return (next ??= running.then(() => {
      next = null;
      return load(revalidate);
    }));
  running = revalidate().finally(() => (running = null));
  return running;
}

/**
 * What the screen shows, loaded again. A load that is broken off by the next one, or that breaks off the way to another
 * place, is told as a fault, and on a busy server both would pile up: so one follows the other, and a way that is being
 * gone is gone first.
 * @returns resolves once what is there now is shown
 */
export function useReload(): () => Promise<void> {
  const { revalidate } = useRevalidator();
  const isIdle = useNavigation().state === 'idle';
  const latest = useLatest(isIdle);
  const waiting = useRef<(() => void)[]>([]);
  useEffect(() => {
    if (!isIdle || waiting.current.length === 0) return;
    const told = waiting.current;
    waiting.current = [];
    void load(revalidate).finally(() => told.forEach((tell) => tell()));
  }, [isIdle, revalidate]);
  return useCallback(() => loadWhen(latest, waiting, revalidate), [latest, waiting, revalidate]);
}

const loadWhen = (
  isIdle: RefObject<boolean>,
  waiting: RefObject<(() => void)[]>,
  revalidate: () => Promise<void>,
): Promise<void> => (isIdle.current ? load(revalidate) : new Promise((tell) => waiting.current.push(tell)));
