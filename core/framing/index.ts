export * from './steadying';
export * from './steadyPath';
export * from './view';
export * from './calmPath';
export * from './mouths';
export * from './crop';
export * from './follow';
export * from './things';
