export * from './types';
export * from './score';
export * from './limits';
export * from './cutPoints';
export * from './choose';
export * from './why';
