export * from './types';
export * from './sentences';
export * from './edit';
export * from './import';
export * from './language';
