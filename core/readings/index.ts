export {
  type Derived,
  type DisplayTraceName,
  type DisplayTraces,
  type LoudnessSummary,
  type RawReading,
  type RawTraceName,
  type ReadingPart,
  type Run,
  type RunKind,
  changedParts,
  displayTraceNames,
  fineColumns,
  fineHz,
  fineRows,
  lookColumns,
  lookHz,
  lookRows,
  partSince,
  readerVersion,
  readingParts,
  runsOf,
  tintHz,
} from './types';
export { type ReadingRules, cameraPath, derive, readingDefaults } from './derive';
export { type ReadingSummary, isSpeech, loudnessWords, summarize, summarySentence } from './summary';
export { guessReading, readingPace } from './cost';
export { type Glance, glanceSteps, readingOfGlances } from './glances';
export { type PartInterest, cropReading, mergeStretches, orderParts, partsWithin } from './parts';
export { seenTracks } from './seenTracks';
