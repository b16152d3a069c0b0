import { steadyingAdvice } from '#core/framing';
import {
  cameraPath,
  derive,
  displayTraceNames,
  runsOf,
  summarize,
  type DisplayTraceName,
  type RawReading,
  type ReadingRules,
  type Run,
} from '#core/readings';

export type ReportAsk = { kind: 'raw'; raw: RawReading; shape: number } | { kind: 'decide'; rules: ReadingRules };

export interface Report {
  runs: Run[];
  summary: ReturnType<typeof summarize>;
  /** Each trace in `points` steps. */
  traces: Record<DisplayTraceName, number[]>;
  steadying: { start: number; end: number; sentence: string }[];
  tookMilliseconds: number;
}

const points = 300;
let raw: RawReading | null = null;
let shape = 9 / 16;

/** Decides a file's reading anew whenever a sensitivity moves. */
self.onmessage = ({ data: ask }: MessageEvent<ReportAsk>) => {
  if (ask.kind === 'raw') {
    ({ raw, shape } = ask);
    return;
  }
  if (!raw) return;
  const started = performance.now();
  const derived = derive(raw, ask.rules);
  const cuts = runsOf(derived.runs, 'scene')
    .slice(1)
    .map((scene) => scene.start);
  const path = cameraPath(raw, cuts);
  const report: Report = {
    runs: derived.runs,
    summary: summarize(derived),
    traces: Object.fromEntries(
      displayTraceNames.map((name) => [name, thin(derived.traces[name], name === 'loudness' ? 'mean' : 'max')]),
    ) as Record<DisplayTraceName, number[]>,
    steadying: runsOf(derived.runs, 'shaky').map((run) => ({
      start: run.start,
      end: run.end,
      sentence: steadyingAdvice(path, run, shape).sentence,
    })),
    tookMilliseconds: performance.now() - started,
  };
  (self as unknown as Worker).postMessage(report);
};

function thin(values: Float32Array, how: 'mean' | 'max'): number[] {
  return Array.from({ length: points }, (_, index) => {
    const from = Math.floor((index * values.length) / points);
    const to = Math.max(from + 1, Math.floor(((index + 1) * values.length) / points));
    let pooled = how === 'max' ? -Infinity : 0;
    for (let at = from; at < to; at++)
      pooled = how === 'max' ? Math.max(pooled, values[at] ?? 0) : pooled + (values[at] ?? 0) / (to - from);
    return Math.round(pooled * 1000) / 1000;
  });
}
