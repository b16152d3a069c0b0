import type { Range } from '#core/time';

/** A reading over time. Sample `i` stands for the time `start + i / hz`, in seconds. */
export interface Trace {
  name: string;
  hz: number;
  start: number;
  values: Float32Array;
}

/** Linear interpolation of a trace at `seconds`; the ends are held. */
export function sampleAt(trace: Trace, seconds: number): number {
  const { values } = trace;
  if (values.length === 0) return 0;
  const at = Math.min(values.length - 1, Math.max(0, (seconds - trace.start) * trace.hz));
  const low = Math.floor(at);
  const high = Math.min(values.length - 1, low + 1);
  return values[low]! + (values[high]! - values[low]!) * (at - low);
}

/** What several samples become one by. */
export type Pooling = 'mean' | 'max' | 'last';

/**
 * The same reading at another rate, `count` samples from time 0. Each new sample pools the old ones in its slot
 * [i/hz, (i+1)/hz); a slot without any holds the last value before it.
 */
export function poolTrace(trace: Trace, hz: number, count: number, pooling: Pooling = 'mean'): Float32Array {
  const out = new Float32Array(count);
  const { values } = trace;
  if (values.length === 0) return out;
  for (let index = 0; index < count; index++) {
    const from = Math.max(0, Math.ceil((index / hz - trace.start) * trace.hz - 1e-6));
    const to = Math.min(values.length, Math.max(from, Math.ceil(((index + 1) / hz - trace.start) * trace.hz - 1e-6)));
    if (to <= from) {
      out[index] = values[Math.min(values.length - 1, Math.max(0, from - 1))]!;
      continue;
    }
    let pooled = pooling === 'max' ? -Infinity : 0;
    for (let at = from; at < to; at++) {
      if (pooling === 'max') pooled = Math.max(pooled, values[at]!);
      else if (pooling === 'last') pooled = values[at]!;
      else pooled += values[at]! / (to - from);
    }
    out[index] = pooled;
  }
  return out;
}

/** Where runs begin and end in a trace. */
export interface RunRule {
  /** A run begins where the value reaches this. */
  enter: number;
  /** It goes on while the value stays at or over this. */
  stay: number;
  minSeconds?: number;
  /** Gaps shorter than this are bridged. */
  bridgeSeconds?: number;
}

/** Stretches where the value is high, with hysteresis; in seconds from the trace's zero. */
export function runsAbove(values: ArrayLike<number>, hz: number, rule: RunRule): Range[] {
  const runs: Range[] = [];
  let from = -1;
  for (let index = 0; index <= values.length; index++) {
    const value = index < values.length ? values[index]! : -Infinity;
    if (from < 0 && value >= rule.enter) {
      from = index;
      while (from > 0 && values[from - 1]! >= rule.stay) from--;
    } else if (from >= 0 && value < rule.stay) {
      const last = runs.at(-1);
      if (last && from / hz - last.end < (rule.bridgeSeconds ?? 0)) last.end = index / hz;
      else runs.push({ start: from / hz, end: index / hz });
      from = -1;
    }
  }
  return runs.filter((run) => run.end - run.start >= (rule.minSeconds ?? 0) - 1e-9);
}
