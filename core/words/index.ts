export { type Sentence, type Word, doubtMark, isDoubtful } from './types';
export { bareWord, spokenWord } from './bare';
export { type ScriptWord, scriptWords } from './align/script';
export { type Anchor, anchorsOf, firmAnchors } from './align/anchors';
export {
  type AlignedWords,
  type AlignmentGap,
  type FittedSound,
  canBeSaid,
  gapsBetween,
  gapsInSpeech,
  searchOf,
  settleScript,
} from './align/gaps';
export { pieceGrammar, strayPrefix } from './align/grammar';
export { languageModelOf } from './align/languageModel';
export { arpabetOf } from './align/phones';
export { sentences } from './sentences';
export { type WordsCommand, applyWordsCommand } from './commands';
export { type DoubtfulPlace, doubtsOf, heardAs, sameElsewhere } from './review';
export { type Disfluency, disfluenciesIn } from './disfluencies';
export { textOfJson, textOfRows } from './rows';
export { stretchOfWords } from './stretch';
export { rivalTexts, withRivals } from './rivals';
export { takeBetter } from './better';
export { calibrated } from './certainty';
export { mostTerms, termsIn, termsToOffer } from './terms';
export { correctWords, spread } from './edit';
export { WordsError, hasTimes, importWords } from './import';
export { guessLanguage, languageTag, sameLanguage } from './language';
export { type Cue, parseSubtitles } from './subtitles';
