export {
  type Clip,
  type Gap,
  type HouseStyle,
  type Logo,
  type MovedClip,
  type Music,
  type Reel,
  type ReelItem,
  type ReelMarker,
  type Source,
  type Title,
  type TitleKind,
  type Track,
  type TransitionKind,
  clipsOf,
  findClip,
  itemsFrames,
  mainTrack,
  musicDefaults,
  pictureTracks,
  reelFrames,
  soundTracks,
  sourceFrames,
  speedOf,
  transitionKinds,
} from './types';
export type { CommandOf, Placing, ReelCommand } from './commands';
export { type SyncedFile, type WantedPiece, assembleReel, clipFor, inPlaceReel, reelFormat } from './assemble';
export { movePhotos } from './movePhotos';
export { coverJumps } from './coverJumps';
export { moveSpan, spanOfWords, strikeOut } from './textEdits';
export { applyCommand, describeCommand } from './commands';
export {
  type Fade,
  type Segment,
  clipsAbove,
  clipsBeside,
  cutFadeSeconds,
  fadeAt,
  leavesOf,
  planHeard,
  planPictures,
  planSegments,
  planSound,
  segmentAt,
  soundRate,
} from './plan';
export { amplitude, highestPeak, isLevel, loudnessTargets, quietest } from './level';
export { type GainPoint, levelAt, musicCurve, sampledCurve, speechInReel, usualRise, usualSink } from './mix';
export { findTheme, themes } from './themes';
export { themeTitles } from './themeTitles';
export { whatIsSet } from './whatIsSet';
export { type NowAt, whereNow } from './whereNow';
export { insertInOrder } from './insertInOrder';
export { beforeCut, settleTransitions } from './transitions';
export {
  type TitleCanvas,
  drawTitle,
  fontFamilies,
  logoBox,
  safeAreas,
  titleAt,
  titleMotionFrames,
  titleStyle,
  titleTravel,
} from './titles';
export {
  captionWays,
  type CaptionWay,
  type Coding,
  type OutputFormat,
  type Quality,
  type Shape,
  estimateOutput,
  formatNames,
  lineCounts,
  outputFor,
  outputFormats,
  paceOf,
  purposeNames,
  purposes,
  qualities,
  sameCoding,
  scaledSize,
  shapeOf,
  shapes,
  sizeOf,
} from './output';
export { adviseEnding } from './ending';
export { type SnapKind, snapKinds, snapPlace, snapTrim } from './snap';
export { type Difference, compareReels } from './compare';
export { beatFrames, endWithMusic } from './fitMusic';
export { type Fitted, fitReelToMusic } from './lengthen';
export { linkedWith, locate } from './commands/found';
export { framesLeft } from './commands/room';
export { plainLook } from './commands/look';
export { dressInStyle } from './houseStyle';
export { clashes, fileNames, namePlaces, renderPlaces } from './fileNames';
export { type JoinedMusic, joinReels } from './joinReels';
export { type Carried, takeUp, transferPieces } from './transfer';
export { type MergedReel, mergeReels } from './mergeReels';
export { malformedAt } from './wellFormed';
export { type OutletAccount, refusalOf } from './outlet';
export { type StretchToFrame, piecesToFrame } from './toFrame';
export { stretchShown, trimsTo } from './restoreLength';
export { type ProbedItem, sourcesFrom } from './sources';
