export { type Sentence, type Word, doubtfulUnder } from './types';
export { sentences } from './sentences';
export { correctWords, flagWord, retimeWords, spread, typeWords } from './edit';
export { WordsError, importWords } from './import';
export { guessLanguage } from './language';
export { type Cue, parseSubtitles } from './subtitles';
