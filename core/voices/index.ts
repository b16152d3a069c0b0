export { Cepstra, voiceRate } from './cepstra';
export { speakersOf, type FileSpeakers, type ProjectSpeakers } from './speakers';
export { mostVoices, turnRule, turnsOf, type VoiceTurn } from './turns';
export { changeVoice, joinVoices, namesOfVoices, voicesIn, voiceAt } from './voices';
