import { runsAbove } from '#core/signal';
import { mergeRanges, subtractRanges, type Range } from '#core/time';
import { structureOf } from './structure';
import type { Footage, Limits } from './types';

/** A stretch that is not accepted, in seconds of its file, and why. */
export interface Flaw extends Range {
  kind:
    | 'shaky'
    | 'blurred'
    | 'dark'
    | 'flat'
    | 'white'
    | 'plain'
    | 'clipped'
    | 'wind'
    | 'frozen'
    | 'whip'
    | 'silent'
    | 'outside'
    | 'unread';
}

/** Stretches that the limits shut out, by kind. A little more is taken at both ends of a shaky one, so that cuts are clean. */
export function flawedStretches(footage: Footage, limits: Limits): Flaw[] {
  const { traces, runs, hz, durationSeconds, wanted } = footage;
  const found = (kind: Flaw['kind'], values: Float32Array, enter: number, stay: number, pad: number) =>
    runsAbove(values, hz, { enter, stay, minSeconds: 0.3, bridgeSeconds: 0.5 }).map((run): Flaw => ({
      kind,
      start: Math.max(0, run.start - pad),
      end: Math.min(durationSeconds, run.end + pad),
    }));
  const over = (kind: Flaw['kind'], values: Float32Array, bound: number, pad: number) =>
    found(kind, values, bound, bound * 0.85, pad);
  const under = (kind: Flaw['kind'], values: Float32Array, bound: number) =>
    found(
      kind,
      values.map((value) => -value),
      -bound,
      -bound * 1.15,
      0,
    );
  const whips = runs.filter((run) => run.kind === 'whip');
  const duringWhip = (start: number, end: number) =>
    whips.some((whip) => whip.start - 0.3 <= start && whip.end + 0.3 >= end);
  const measured = [
    ...(limits.shake < 1 ? over('shaky', traces.shake, limits.shake, 0.15) : []),
    ...(limits.blur > 0 ? under('blurred', traces.sharpness, limits.blur) : []),
    ...(limits.dark > 0 ? under('dark', traces.exposure, limits.dark) : []),
    ...(limits.contrast ? under('flat', traces.contrast, limits.contrast) : []),
    ...((limits.white ?? 1) < 1 ? over('white', traces.white, limits.white!, 0) : []),
    ...(limits.plain ? under('plain', structureOrFaces(footage), limits.plain) : []),
    ...(limits.frozen
      ? runs.filter((run) => run.kind === 'frozen').map(({ start, end }): Flaw => ({ kind: 'frozen', start, end }))
      : []),
  ].filter((flaw) => !duringWhip(flaw.start, flaw.end));
  const whole = (kind: 'whip' | 'unread' | 'clipped' | 'wind') =>
    runs.filter((run) => run.kind === kind).map(({ start, end }): Flaw => ({ kind, start, end }));
  const silent = limits.silence
    ? runs
        .filter((run) => run.kind === 'silence' && run.end - run.start > limits.silence!)
        .map(({ start, end }): Flaw => ({ kind: 'silent', start, end }))
    : [];
  const outside = wanted
    ? subtractRanges({ start: 0, end: durationSeconds }, [wanted]).map((range): Flaw => ({ kind: 'outside', ...range }))
    : [];
  return [
    ...measured,
    ...silent,
    ...outside,
    ...(limits.whips ? whole('whip') : []),
    ...(limits.clipped ? whole('clipped') : []),
    ...(limits.wind ? whole('wind') : []),
    ...whole('unread'),
  ].filter((flaw) => flaw.end > flaw.start);
}

/** Seconds before and after a face in which a picture is not empty. */
const aroundFaces = 1;

/** How much there is to see: structure in the large, or somebody. */
export function structureOrFaces(footage: Footage): Float32Array {
  const { traces, hz } = footage;
  const out = structureOf(footage).slice();
  const near = Math.round(aroundFaces * hz);
  for (const [index, faces] of traces.faces.entries())
    if (faces > 0.5) out.fill(1, Math.max(0, index - near), index + near + 1);
  return out;
}

/** The same without kinds: sorted and merged. */
export const shutOut = (flaws: readonly Flaw[]): Range[] => mergeRanges(flaws);
