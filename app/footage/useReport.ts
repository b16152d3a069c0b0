import { useEffect, useRef, useState } from 'react';
import type { ReadingRules } from '#core/readings';
import type { Report, ReportAsk } from '../workers/report.worker';
import { decodeRaw } from '../readings/readingCodec';
import { ask } from '../ui/ask';

/** The report of one file, decided anew in a web worker whenever the rules change; only the latest question waits. */
export function useReport(
  media: string,
  rules: ReadingRules,
  shape: number,
  stamp: string,
): { report: Report | null; problem: string | null } {
  const worker = useRef<Worker | null>(null);
  const busy = useRef(false);
  const waiting = useRef<ReadingRules | null>(null);
  const [ready, setReady] = useState(0);
  const [report, setReport] = useState<Report | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    const own = new Worker(new URL('../workers/report.worker.ts', import.meta.url), { type: 'module' });
    const stop = new AbortController();
    worker.current = own;
    busy.current = false;
    own.onmessage = ({ data }: MessageEvent<Report>) => {
      setReport(data);
      busy.current = false;
      if (!waiting.current) return;
      own.postMessage({ kind: 'decide', rules: waiting.current } satisfies ReportAsk);
      waiting.current = null;
      busy.current = true;
    };
    ask(`/media/${media}/raw`, stop.signal, async (answer) => {
      if (!answer.ok) return setProblem(await answer.text());
      own.postMessage({ kind: 'raw', raw: decodeRaw(await answer.arrayBuffer()), shape } satisfies ReportAsk);
      setReady((now) => now + 1);
    });
    return () => {
      stop.abort();
      own.terminate();
    };
  }, [media, shape, stamp]);
  useEffect(() => {
    if (!ready) return;
    if (busy.current) {
      waiting.current = rules;
      return;
    }
    busy.current = true;
    worker.current?.postMessage({ kind: 'decide', rules } satisfies ReportAsk);
  }, [rules, ready]);
  return { report, problem };
}
