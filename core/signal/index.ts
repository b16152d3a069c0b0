export * from './trace';
export * from './smooth';
