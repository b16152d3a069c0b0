import { clamp, percentile } from '#core/signal';

/**
 * How much a sound stands out when nobody speaks: cheers, laughs, bangs. 0 to 1 per sample of the loudness trace;
 * 1 is 15 LU over the usual level of the file (its median), speech counts a quarter.
 */
export function burstStrength(momentaryLufs: Float32Array, speech: Float32Array): Float32Array {
  const usual = Math.max(-38, percentile(momentaryLufs, 0.5));
  return momentaryLufs.map((lufs, index) => clamp((lufs - usual - 3) / 12) * (1 - 0.75 * clamp(speech[index] ?? 0)));
}
