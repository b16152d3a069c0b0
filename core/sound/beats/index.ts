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
export { type MusicHearing, beatSampleRate, hearMusic, hearingVersion, waveHz } from './hear';
export type { Doubt } from './doubts';
export type { Section } from './sections';
export { beatScore } from './score';
