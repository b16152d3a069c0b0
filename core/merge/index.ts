export { mergeOrder, movedBetween } from './order';
export { mergeRuns } from './runs';
export { type Three, mergeValues, sameValue } from './values';
