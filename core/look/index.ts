export { type ColourTable, applyTable } from './table';
export { readCube, writeCube } from './cube';
export { changesNothing, lookTable, namedLooks } from './looks';
