import { cameraDefaults } from '#core/picture';
import { runsOf } from '#core/readings';
import { runsAbove } from '#core/signal';
import { coveredSeconds, lengthOf, mergeRanges, overlap, subtractRanges, type Range } from '#core/time';
import type { Footage } from './types';

/** What counts as shaky when the steady is parted from it. */
export interface SeparationRule {
  /** Shake from which a stretch counts, 0 to 1 as its trace has it; a little is let through. */
  shakyFrom: number;
  /** So much more goes at both ends of what shakes, in seconds. */
  padSeconds: number;
  /** A steady stretch shorter than this is of no use and goes with the shaky. */
  minSteadySeconds: number;
  /** Where whip pans go; they are usually meant, and so with the steady. */
  whips: 'steady' | 'shaky';
}

/**
 * Shake counts from where the reader calls it that; under two seconds a steady piece cannot be cut with. Common practice,
 * no source.
 */
const separationDefaults: SeparationRule = {
  shakyFrom: cameraDefaults.shakyFrom,
  padSeconds: 0,
  minSteadySeconds: 2,
  whips: 'steady',
};

/** The rule of a project, how its reels are made, and those that were made last. */
export interface SeparationChoice extends SeparationRule {
  /** Whether every piece stays where it was filmed; null for synced cameras only. */
  inPlace: boolean | null;
  /** How many times the footage was parted, and the reels of the last time. */
  times: number;
  last: { steady: string | null; shaky: string | null } | null;
}
export const separationChoice: SeparationChoice = { ...separationDefaults, inPlace: null, times: 0, last: null };

/** A file parted, in seconds. */
export interface Separation {
  steady: Range[];
  shaky: Range[];
}

/** At another threshold shaky runs are those of the trace: held on, bridged and led in as the reader does. */
const stayShare = 0.7,
  leastSeconds = 0.3,
  bridgeSeconds = 0.5;

function shakingIn({ runs, traces, hz, durationSeconds }: Footage, { shakyFrom }: SeparationRule): Range[] {
  const read = runsOf(runs, 'shaky');
  if (Math.abs(shakyFrom - cameraDefaults.shakyFrom) < 1e-6) return read;
  const over = runsAbove(traces.shake, hz, {
    enter: shakyFrom,
    stay: shakyFrom * stayShare,
    minSeconds: leastSeconds,
    bridgeSeconds,
  }).map(({ start, end }) => ({
    start: Math.max(0, start - cameraDefaults.padSeconds),
    end: Math.min(durationSeconds, end + cameraDefaults.padSeconds),
  }));
  if (shakyFrom < cameraDefaults.shakyFrom) return mergeRanges([...read, ...over]);
  // Where less is called shaky, nothing is that was not before: the reader knows intended moves from shake.
  return over.flatMap((range) =>
    read
      .filter((run) => overlap(range, run) > 0)
      .map((run) => ({ start: Math.max(range.start, run.start), end: Math.min(range.end, run.end) })),
  );
}

/**
 * Parts a file into what is steady and what shakes; together they are all that was read, without overlap. Shaky runs
 * begin a few frames early (see `cameraRuns`), so the cuts are clean.
 */
export function separate(footage: Footage, rule: SeparationRule = separationDefaults): Separation {
  const { runs, durationSeconds } = footage;
  const whips = runsOf(runs, 'whip');
  const padded = shakingIn(footage, rule).map(({ start, end }) => ({
    start: Math.max(0, start - rule.padSeconds),
    end: Math.min(durationSeconds, end + rule.padSeconds),
  }));
  const shaking = [
    ...padded.flatMap((run) => (rule.whips === 'steady' ? subtractRanges(run, whips) : [run])),
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
