import { useCallback, useEffect, useRef, useState } from 'react';
import type { Footage } from '#core/moments';
import type { Answer, Ask, Chosen, Why } from '../workers/protocol';

type Choose = Extract<Ask, { kind: 'choose' }>;

/**
 * The choice of moments, computed in a web worker. While one is being computed only the latest question waits, so
 * that a moving slider is followed as fast as the machine can and never queued.
 */
export function useChoice(footage: readonly Footage[]) {
  const worker = useRef<Worker | null>(null);
  const waiting = useRef<Choose | null>(null);
  const busy = useRef(false);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [why, setWhy] = useState<Why | null>(null);

  useEffect(() => {
    const own = new Worker(new URL('../workers/moments.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    busy.current = false;
    own.onmessage = ({ data }: MessageEvent<Answer>) => {
      if (data.kind === 'why') return setWhy(data);
      setChosen(data);
      busy.current = false;
      if (waiting.current) {
        own.postMessage(waiting.current);
        waiting.current = null;
        busy.current = true;
      }
    };
    own.postMessage({ kind: 'footage', footage: [...footage] } satisfies Ask);
    return () => own.terminate();
  }, [footage]);

  const choose = useCallback((ask: Omit<Choose, 'kind'>) => {
    const question: Choose = { kind: 'choose', ...ask };
    if (busy.current) {
      waiting.current = question;
      return;
    }
    busy.current = true;
    worker.current?.postMessage(question);
  }, []);
  const askWhy = useCallback((media: string, start: number, end: number) => worker.current?.postMessage({ kind: 'why', media, start, end } satisfies Ask), []);
  return { chosen, why, choose, askWhy };
}
