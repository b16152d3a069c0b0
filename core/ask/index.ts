export * from './types';
export * from './vocabulary';
export * from './describe';
export * from './parse';
export * from './answer';
export * from './lexicon';
