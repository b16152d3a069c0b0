export { Cepstra, cepstraHz, cepstraSize, voiceRate } from './cepstra';
export { twoVoices, VoiceSum } from './gaussian';
export { mostVoices, turnRule, turnsOf, type TurnRule, type VoiceTurn } from './turns';
export { changeVoice, joinVoices, namesOfVoices, voicesIn, voiceAt, type VoiceLine } from './voices';
