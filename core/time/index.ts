export * from './rate';
export * from './timecode';
export * from './range';
export * from './stringOut';
