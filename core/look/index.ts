export * from './table';
export * from './cube';
export * from './looks';
