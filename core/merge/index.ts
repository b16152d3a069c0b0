export { mergeOrder } from './order';
export { type Three, mergeValues, sameValue } from './values';
