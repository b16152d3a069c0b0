export { type Sentence, type Word, doubtfulUnder } from './types';
export { bareWord } from './bare';
export { sentences } from './sentences';
export { type WordsCommand, applyWordsCommand } from './commands';
export { correctWords, spread } from './edit';
export { WordsError, importWords } from './import';
export { guessLanguage } from './language';
export { type Cue, parseSubtitles } from './subtitles';
