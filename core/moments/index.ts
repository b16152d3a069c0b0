export {
  type Decision,
  type Footage,
  type Ingredient,
  type Ingredients,
  type Limits,
  type Mix,
  type Moment,
  type MomentKind,
  type PieceLength,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  ingredientNames,
} from './types';
export { type Prepared, explainScore, meanIngredients, prepare, scoreCurve, weightShares } from './score';
export { type Flaw, flawedStretches, shutOut } from './limits';
export { cutPoints } from './cutPoints';
export {
  type Choice,
  type ChoiceSettings,
  type Ground,
  chooseAbove,
  chooseForTarget,
  layGround,
  reweigh,
  scoreOf,
  suggestedTarget,
} from './choose';
export { knowFiles } from './people';
export { defaultVariety } from './coverage';
export { type Arrangement, arrangements, tellStory } from './story';
export { ingredientPhrases, leavesAt, momentPiece, momentReason } from './why';
export { compareTake } from './takes';
export { type Known, momentTitle, nothingKnown, titlesApart } from './titles';
export { footageOf } from './footage';
export { photoFootage, photoSeconds } from './photo';
export { type FilterName, filterNames, layOut } from './filter';
export { type SeparationChoice, separate, separationChoice } from './separate';
export { type Silence, markSilences, withoutSilence } from './quiet';
export {
  type SceneBoard,
  type SceneCell,
  type SceneTag,
  emptyBoard,
  joinScene,
  moveScene,
  partScene,
  sceneCells,
  sceneTags,
  tagScene,
} from './board';
export { type Recipe, readyMixes } from './mixes';
export { type SuggestedLimit, suggestLimits } from './suggestLimits';
export { type Example, type Preference, examplesOf, fitLogistic, learnPreference, proposeMix } from './learning';
export { type Remedy, findRemedies } from './remedies';
