export { LoudnessMeter, loudnessFloor } from './loudness';
export { type SpeechRule, speechDefaults, speechRuns } from './speech';
export { silentRuns, suggestedSilenceThreshold } from './silence';
export { burstStrength } from './bursts';
export { type RecordingOffset, findOffset, offsetSampleRate } from './offset';
export { goesOn, joinSampleRate } from './continuity';
export { TruePeakMeter } from './truePeak';
export { OnsetMeter } from './onset';
export { musicLikelihood, musicRuns } from './music';
export { partWind } from './wind';
export {
  type BeatGrid,
  type Doubt,
  type GridCorrection,
  type MusicHearing,
  type Section,
  beatBefore,
  beatSampleRate,
  beatScore,
  beginsBar,
  correctGrid,
  downbeats,
  enoughTaps,
  gridByTaps,
  gridWithPart,
  hearBars,
  hearMusic,
  hearingVersion,
  nearestBeat,
  otherLength,
  placeOf,
  sameCountIn,
  snapTo,
  tapsTogether,
  tempoOf,
  tempoWithin,
  waveHz,
} from './beats/index';
export {
  type HeardChannel,
  type SoundChoice,
  type SoundPick,
  type SoundTrack,
  channelsOf,
  firstTrack,
  hasChoice,
  isFirstTrack,
  proposeSound,
  readSoundChoice,
  silentLevel,
  writeSoundChoice,
} from './tracks';
