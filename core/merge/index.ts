export { mergeOrder, movedBetween } from './order';
export { type Three, mergeValues, sameValue } from './values';
