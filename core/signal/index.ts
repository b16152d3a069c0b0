export { type Pooling, type Trace, poolTrace, runsAbove } from './trace';
export { clamp, gaussianSmooth, percentile, prefixSums, slidingRms } from './smooth';
export { PowerSpectrum, powerOfTwo, signalOf, spectrumOf } from './fft';
export { type Random, seededRandom } from './random';
