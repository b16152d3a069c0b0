export { Cepstra, voiceRate } from './cepstra';
export { HeardPeriods, overlapsIn, withOverlaps } from './overlaps';
export { speakersOf } from './speakers';
export { mostVoices, turnRule, turnsOf, type VoiceTurn } from './turns';
export { changeVoice, joinVoices, namesOfVoices, voicesIn, voiceAt, voiceNow, voicesTogether } from './voices';
