import { runsOf } from '#core/readings';
import { coveredSeconds, lengthOf, mergeRanges, subtractRanges, type Range } from '#core/time';
import type { Footage } from './types';

/** What counts as shaky when the steady is parted from it. */
export interface SeparationRule {
  /** Where whip pans go; they are usually meant, and so with the steady. */
  whips: 'steady' | 'shaky';
  /** A steady stretch shorter than this is of no use and goes with the shaky. */
  minSteadySeconds: number;
}

/** Under two seconds a steady piece cannot be cut with. Common practice, no source. */
const separationDefaults: SeparationRule = { whips: 'steady', minSteadySeconds: 2 };

/** A file parted, in seconds. */
export interface Separation {
  steady: Range[];
  shaky: Range[];
}

/**
 * Parts a file into what is steady and what shakes; together they are all that was read, without overlap. Shaky runs
 * begin a few frames early (see `cameraRuns`), so the cuts are clean.
 */
export function separate(footage: Footage, rule: SeparationRule = separationDefaults): Separation {
  const { runs, durationSeconds } = footage;
  const whips = runsOf(runs, 'whip');
  const shaking = [
    ...runsOf(runs, 'shaky').flatMap((run) => (rule.whips === 'steady' ? subtractRanges(run, whips) : [run])),
    ...(rule.whips === 'shaky' ? whips : []),
  ];
  const read = subtractRanges({ start: 0, end: durationSeconds }, runsOf(runs, 'unread'));
  const shaky = mergeRanges(shaking);
  const between = read.flatMap((range) => subtractRanges(range, shaky));
  // A file that is short as a whole is steady all the same: there is nothing it could be cut from.
  const good = between.filter(
    (range) =>
      lengthOf(range) >= rule.minSteadySeconds - 1e-6 ||
      coveredSeconds({ start: 0, end: durationSeconds }, shaky) < 1e-6,
  );
  return {
    steady: good,
    shaky: read.flatMap((range) => subtractRanges(range, good)).filter((range) => lengthOf(range) > 1e-6),
  };
}
