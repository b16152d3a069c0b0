export {
  type Rate,
  framesPerSecond,
  framesToSamples,
  framesToSeconds,
  nearestStandardRate,
  parseRate,
  rates,
  secondsToFrames,
} from './rate';
export { formatClock, formatTimecode, hasDropFrame, parseClock, parseTimecode } from './timecode';
export {
  type Range,
  contains,
  coveredSeconds,
  lengthOf,
  mergeRanges,
  lastBefore,
  overlap,
  subtractRanges,
  totalLength,
} from './range';
export { type LinePart, type StringItem, StringOut } from './stringOut';
export { type RecordedFile, chainsOf, splitPairs } from './splitRecordings';
export type { RecordingLabels } from './labels';
export {
  type SourceStart,
  framesAtTimecode,
  secondsAtTimecode,
  sourceStartOf,
  sourceTimecodes,
  startFrames,
} from './sourceTime';
