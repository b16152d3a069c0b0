export type { Look } from './types';
export { type ColourTable, applyTable } from './table';
export { type HdrTransfer, standardRangeTable } from './toneMap';
export { changesNothing, lookTable, namedLooks } from './looks';
