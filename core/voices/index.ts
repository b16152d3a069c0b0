export { Cepstra, voiceRate } from './cepstra';
export { mostVoices, turnRule, turnsOf, type VoiceTurn } from './turns';
export { changeVoice, joinVoices, namesOfVoices, voicesIn, voiceAt } from './voices';
