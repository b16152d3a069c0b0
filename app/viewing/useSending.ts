import { useEffect, useRef, useState } from 'react';
import { useFetcher } from 'react-router';

/** Sends one thing after the other; each is sent until it was heard. */
export function useSending() {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [waiting, setWaiting] = useState<Record<string, string>[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [arrived, setArrived] = useState<ReadonlySet<string>>(new Set());
  const onItsWay = useRef<Record<string, string> | null>(null);
  const { state, submit, data } = fetcher;
  useEffect(() => {
    if (state !== 'idle') return;
    const done = onItsWay.current;
    if (done && data) {
      onItsWay.current = null;
      setProblem(data.problem);
      if (data.problem === null && done.id) setArrived((now) => new Set([...now, done.id!]));
    }
    const [next, ...rest] = waiting;
    if (!next) return;
    onItsWay.current = next;
    setWaiting(rest);
    void submit(next, { method: 'post' });
  }, [state, waiting, submit, data]);
  return { problem, arrived, send: (fields: Record<string, string>) => setWaiting((now) => [...now, fields]) };
}
