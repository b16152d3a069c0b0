export * from './steadying';
export * from './steadyPath';
export * from './view';
