export {
  type Material,
  type Recording,
  type Short,
  type ShortPart,
  type ShortsWish,
  lengthOfShort,
  lengthRanges,
  materialNames,
  materials,
  partNames,
  shortParts,
  shortsDefaults,
} from './types';
export { findShorts, layShorts } from './find';
export { type Thumb, rankShorts } from './rank';
export { endAt, shortReel, shownPieces } from './toReel';
export { reasonAfter, titleAfter } from './titles';
