export type { Look } from './types';
export { type ColourTable, applyTable } from './table';
export { changesNothing, lookTable, namedLooks } from './looks';
