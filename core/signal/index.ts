export * from './trace';
export * from './smooth';
export * from './fft';
export * from './random';
