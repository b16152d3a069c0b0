import { useCallback, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Footage } from '#core/moments';
import type { WorkerAnswer, Ask, AskWorld, Chosen, AskAnswer, Learned, Why } from '../../workers/protocol';

type Choose = Extract<Ask, { kind: 'choose' }>;
type Learn = Extract<Ask, { kind: 'learn' }>;

/** One worker for the screen; it starts while readings are still on their way, and prepares each as it comes. */
let shared: Worker | null = null;
const numbers = new WeakMap<Footage, number>();
let last = 0;
const startWorker = () =>
  (shared ??= new Worker(new URL('../../workers/moments.worker.ts', import.meta.url), { type: 'module' }));
const post = (ask: Ask) => startWorker().postMessage(ask);

/** Hands a file to the worker, once. @returns its number there */
export function handOver(footage: Footage): number {
  const known = numbers.get(footage);
  if (known !== undefined) return known;
  numbers.set(footage, ++last);
  post({ kind: 'read', number: last, footage });
  return last;
}

/**
 * The choice of moments, its reasons, what was learnt and what was asked for, computed in a web worker. While a choice
 * is being computed only the latest question waits, so that a moving slider is followed as fast as the machine can and
 * never queued.
 */
export function useChoice(footage: readonly Footage[]) {
  const waiting = useRef<Choose | null>(null);
  const busy = useRef(false);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [why, setWhy] = useState<Why | null>(null);
  const [learned, setLearned] = useState<Learned | null>(null);
  const [found, setFound] = useState<AskAnswer | null>(null);

  useLayoutEffect(() => {
    const own = startWorker();
    busy.current = false;
    const hear = ({ data }: MessageEvent<WorkerAnswer>) => {
      if (data.kind === 'why') return setWhy(data);
      if (data.kind === 'learned') return setLearned(data);
      if (data.kind === 'found') return setFound(data);
      setChosen(data);
      busy.current = false;
      if (waiting.current) {
        own.postMessage(waiting.current);
        waiting.current = null;
        busy.current = true;
      }
    };
    own.addEventListener('message', hear);
    return () => own.removeEventListener('message', hear);
  }, []);
  // Before anything is chosen of it, which happens in a layout effect as well.
  useLayoutEffect(() => post({ kind: 'footage', numbers: footage.map(handOver) }), [footage]);

  const choose = useCallback((ask: Omit<Choose, 'kind'>) => {
    const question: Choose = { kind: 'choose', ...ask };
    if (busy.current) {
      waiting.current = question;
      return;
    }
    busy.current = true;
    post(question);
  }, []);
  const askWhy = useCallback(
    (media: string, start: number, end: number) => post({ kind: 'why', media, start, end }),
    [],
  );
  const learn = useCallback((ask: Omit<Learn, 'kind'>) => post({ kind: 'learn', ...ask }), []);
  const tellWorld = useCallback((world: AskWorld) => post({ kind: 'world', world }), []);
  const find = useCallback((text: string) => post({ kind: 'ask', text }), []);
  return useMemo(
    () => ({ chosen, why, learned, found, choose, askWhy, learn, tellWorld, find }),
    [chosen, why, learned, found, choose, askWhy, learn, tellWorld, find],
  );
}
