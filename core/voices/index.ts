export { Cepstra, voiceRate } from './cepstra';
export { speakersOf } from './speakers';
export { mostVoices, turnRule, turnsOf, type VoiceTurn } from './turns';
export { changeVoice, joinVoices, namesOfVoices, voicesIn, voiceAt, voiceNow } from './voices';
