import type { Range } from '#core/time';
import { percentile } from '#core/signal';

/** What counts as silence; levels in dBFS, times in seconds. */
export interface SilenceRule {
  thresholdDb: number;
  minSeconds: number;
  /** Taken off at both ends of what is found, so that a breath or the end of a word survives; 0 when missing. */
  padSeconds?: number;
}

/**
 * Stretches whose level stays under a threshold.
 * @param levels RMS level in dBFS, one value per 1/hz seconds
 */
export function silentRuns(levels: ArrayLike<number>, hz: number, rule: SilenceRule): Range[] {
  const runs: Range[] = [];
  let from = -1;
  for (let index = 0; index <= levels.length; index++) {
    const quiet = index < levels.length && levels[index]! < rule.thresholdDb;
    if (quiet && from < 0) from = index;
    if (!quiet && from >= 0) {
      const pad = rule.padSeconds ?? 0;
      if ((index - from) / hz >= rule.minSeconds - 1e-9 && (index - from) / hz > 2 * pad)
        runs.push({ start: from / hz + pad, end: index / hz - pad });
      from = -1;
    }
  }
  return runs;
}

/** 6 dB over the room noise (the level below which the quietest tenth lies), between -60 and -30 dBFS. Common practice, no source. */
export const suggestedSilenceThreshold = (levels: ArrayLike<number>): number =>
  Math.min(-30, Math.max(-60, percentile(levels, 0.1) + 6));
