export {
  type BeatGrid,
  type GridCorrection,
  beatBefore,
  beginsBar,
  correctGrid,
  downbeats,
  nearestBeat,
  placeOf,
  snapTo,
  tempoOf,
} from './grid';
export { gridWithPart, sameCountIn, tempoWithin } from './parts';
export { enoughTaps, gridByTaps, tapsTogether } from './taps';
export { type MusicHearing, beatSampleRate, hearMusic, hearingVersion, waveHz } from './hear';
export { hearBars, otherLength } from './otherLength';
export type { Doubt } from './doubts';
export type { Section } from './sections';
export { beatScore } from './score';
