import { PowerSpectrum, percentile } from '#core/signal';

/** Samples a second at which sound is compared at a join. */
export const joinSampleRate = 16_000;
const windowSize = 2048;
const hop = windowSize / 2;
/** Edges of the bands, in Hz: about two a doubling. */
const edges = [90, 125, 180, 250, 355, 500, 710, 1000, 1400, 2000, 2800, 4000, 5600, 7600];
/** Below this nothing is heard; as power of a bin. */
const floor = 1e-5;
/** A join may stand out so much more than anything else around it: a coder begins anew there. */
const margin = 1.25;
/** The quiet of one room is no further from itself than this, in decibels. */
const otherRoom = 14;
/** Steps of fewer decibels are no break, however even the sound is. */
const leastStep = 6;

/**
 * Whether one sound goes on in another: the spectrum steps no further at the join than it does elsewhere around it, and what is
 * heard when it is quiet is alike on both sides. Steps are
 * root mean square differences of levels by band, in decibels (log spectral distance: Gray and Markel 1976).
 * @param before the last seconds of one, mono at `joinSampleRate`
 * @param after the first seconds of the other
 * @returns false when they part there, or when there is too little to tell
 */
export function goesOn(before: Float32Array, after: Float32Array): boolean {
  const [one, other] = [bandsOf(before, true), bandsOf(after, false)];
  if (one.length < 4 || other.length < 4) return false;
  const steps = [one, other].flatMap((windows) => windows.slice(2).map((levels, at) => stepOf(windows[at]!, levels)));
  const join = stepOf(one.at(-1)!, other[0]!);
  return join <= Math.max(leastStep, margin * Math.max(...steps)) && stepOf(quiet(one), quiet(other)) <= otherRoom;
}

/** What is heard in a band when nothing else is. */
const quiet = (windows: readonly number[][]): number[] =>
  windows[0]!.map((_, band) =>
    percentile(
      windows.map((levels) => levels[band]!),
      0.1,
    ),
  );

/** Levels by band of windows that touch the join with their end or their beginning, in decibels. */
function bandsOf(samples: Float32Array, fromEnd: boolean): number[][] {
  const spectrum = new PowerSpectrum(windowSize);
  const count = Math.max(0, Math.floor((samples.length - windowSize) / hop) + 1);
  const first = fromEnd ? samples.length - windowSize - (count - 1) * hop : 0;
  return Array.from({ length: count }, (_, at) => {
    const power = spectrum.at(samples, first + at * hop);
    return edges.slice(1).map((edge, band) => {
      const [from, to] = [edges[band]!, edge].map((hz) => Math.round((hz * windowSize) / joinSampleRate));
      let sum = floor;
      for (let bin = from!; bin < Math.max(to!, from! + 1); bin++) sum += power[bin]!;
      return 10 * Math.log10(sum);
    });
  });
}

const stepOf = (a: readonly number[], b: readonly number[]): number =>
  Math.sqrt(a.reduce((sum, level, band) => sum + (level - b[band]!) ** 2, 0) / a.length);
