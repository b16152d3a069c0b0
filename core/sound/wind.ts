import { percentile, runsAbove } from '#core/signal';
import { coveredSeconds, lengthOf, subtractRanges, type Range } from '#core/time';

/** Sound above this says nothing about wind. */
const bandHz = 1000;

/**
 * Centroid of the power spectrum below 1 kHz over some frames. Wind that blows into a microphone is strongest below
 * 100 Hz and falls from there, voices begin at their pitch (Nelke, Chatlani, Beaugeant & Vary 2014, *Single microphone
 * wind noise PSD estimation using signal centroids*, from memory).
 */
export class LowCentroid {
  private readonly binHz: number;
  private readonly bins: number;
  private weighted = 0;
  private sum = 0;

  /** @param rate in Hz, of the sound; @param size of its frames, in samples */
  constructor(rate: number, size: number) {
    this.binHz = rate / size;
    this.bins = Math.floor(bandHz / this.binHz);
  }

  /** @param power spectrum of one frame, from 0 Hz */
  add(power: ArrayLike<number>): void {
    // The lowest bin is an offset of the recorder rather than sound.
    for (let bin = 1; bin <= this.bins; bin++) {
      this.sum += power[bin]!;
      this.weighted += power[bin]! * bin * this.binHz;
    }
  }

  /** Of what was added since it was last taken, in Hz. */
  take(): number {
    const centroid = this.sum > 0 ? this.weighted / this.sum : bandHz / 2;
    this.weighted = this.sum = 0;
    return centroid;
  }
}

/** Centroids a second, as `OnsetMeter` gives them. */
const centroidHz = 10;
/** Half of the pictures of a second lie under this, in Hz: real voices have 110 and more, voices in wind 60 to 95. */
const windBelowHz = 100;
/** A quieter rumble disturbs nobody, in dBFS. Common practice, no source. */
const disturbsFromDb = -45;
/** Shorter gusts go by as a thump. Common practice, no source. */
const leastSeconds = 1.5;
/** What is heard as music and lies so low for more than this share of its length is wind: gusts have a pulse, too. */
const mostWind = 0.5;

/**
 * Parts wind that blows into the microphone from music; both in seconds. A bass that plays alone lies as low, so what is
 * music by the most of it is left out of the wind, and what is wind by the most of it is not music.
 * @param centroid in Hz, 10 a second, see `LowCentroid`
 * @param level in dBFS
 * @param levelHz levels a second
 */
export function partWind(
  centroid: Float32Array,
  level: ArrayLike<number>,
  levelHz: number,
  music: readonly Range[],
): { wind: Range[]; music: Range[] } {
  const half = centroidHz / 2;
  const each = levelHz / centroidHz;
  const windy = Float32Array.from(centroid, (_, index) => {
    const from = Math.max(0, index - half),
      to = Math.min(centroid.length, index + half + 1);
    if (percentile(centroid.subarray(from, to), 0.5) > windBelowHz) return 0;
    let power = 0,
      count = 0;
    for (let at = Math.floor(from * each); at < to * each && at < level.length; at++, count++)
      power += 10 ** (level[at]! / 10);
    return 10 * Math.log10(power / Math.max(1, count) + 1e-12) >= disturbsFromDb ? 1 : 0;
  });
  const low = runsAbove(windy, centroidHz, { enter: 1, stay: 1, minSeconds: leastSeconds, bridgeSeconds: 1 });
  const played = music.filter((run) => coveredSeconds(run, low) <= mostWind * lengthOf(run));
  return {
    wind: low.flatMap((run) => subtractRanges(run, played)).filter((run) => lengthOf(run) >= leastSeconds),
    music: played,
  };
}
