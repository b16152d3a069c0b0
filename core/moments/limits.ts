import { runsAbove } from '#core/signal';
import { mergeRanges, subtractRanges, type Range } from '#core/time';
import type { Footage, Limits } from './types';

/** A stretch that is not accepted, in seconds of its file, and why. */
export interface Flaw extends Range {
  kind: 'shaky' | 'blurred' | 'dark' | 'frozen' | 'whip' | 'silent' | 'outside' | 'unread';
}

/** Stretches that the limits shut out, by kind. A little more is taken at both ends of a shaky one, so that cuts are clean. */
export function flawedStretches({ traces, runs, hz, durationSeconds, wanted }: Footage, limits: Limits): Flaw[] {
  const over = (kind: Flaw['kind'], values: Float32Array, bound: number, pad: number) =>
    runsAbove(values, hz, { enter: bound, stay: bound * 0.85, minSeconds: 0.3, bridgeSeconds: 0.5 }).map(
      (run): Flaw => ({
        kind,
        start: Math.max(0, run.start - pad),
        end: Math.min(durationSeconds, run.end + pad),
      }),
    );
  const whips = runs.filter((run) => run.kind === 'whip');
  const duringWhip = (start: number, end: number) =>
    whips.some((whip) => whip.start - 0.3 <= start && whip.end + 0.3 >= end);
  const measured = [
    ...(limits.shake < 1 ? over('shaky', traces.shake, limits.shake, 0.15) : []),
    ...(limits.blur > 0
      ? over(
          'blurred',
          traces.sharpness.map((value) => 1 - value),
          1 - limits.blur,
          0,
        )
      : []),
    ...(limits.dark > 0
      ? over(
          'dark',
          traces.exposure.map((value) => 1 - value),
          1 - limits.dark,
          0,
        )
      : []),
    ...(limits.frozen
      ? runs.filter((run) => run.kind === 'frozen').map(({ start, end }): Flaw => ({ kind: 'frozen', start, end }))
      : []),
  ].filter((flaw) => !duringWhip(flaw.start, flaw.end));
  const whole = (kind: 'whip' | 'unread') =>
    runs.filter((run) => run.kind === kind).map(({ start, end }): Flaw => ({ kind, start, end }));
  const silent = limits.silence
    ? runs
        .filter((run) => run.kind === 'silence' && run.end - run.start > limits.silence!)
        .map(({ start, end }): Flaw => ({ kind: 'silent', start, end }))
    : [];
  const outside = wanted
    ? subtractRanges({ start: 0, end: durationSeconds }, [wanted]).map((range): Flaw => ({ kind: 'outside', ...range }))
    : [];
  return [...measured, ...silent, ...outside, ...(limits.whips ? whole('whip') : []), ...whole('unread')].filter(
    (flaw) => flaw.end > flaw.start,
  );
}

/** The same without kinds: sorted and merged. */
export const shutOut = (flaws: readonly Flaw[]): Range[] => mergeRanges(flaws);
