export * from './types';
export * from './derive';
export * from './summary';
