export * from './types';
export * from './assemble';
export * from './commands';
export * from './plan';
