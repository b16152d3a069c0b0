export { type PartFootage, broughtToFormat, partName } from './parts';
export { framedParts, toFrame } from './framed';
export { type VariantItem, partFootage } from './footage';
export { variantsCost } from './estimate';
export {
  type Variant,
  type WorkedOut,
  listVariants,
  mostListed,
  mostMade,
  movePlace,
  namesTwice,
  placeAgain,
  removePlace,
  repeats,
  tick,
  tickAll,
  tickSome,
  variantNames,
  variantReel,
  workOutParts,
} from './set';
export {
  type VariantGroup,
  type VariantMusic,
  type VariantPart,
  type VariantSet,
  emptyVariants,
  orderedGroups,
} from './types';
