export * from './loudness';
export * from './speech';
export * from './silence';
export * from './bursts';
export * from './offset';
export * from './truePeak';
export * from './onset';
export * from './music';
