export * from './source';
export * from './subtitles';
export * from './otio';
export * from './edl';
export * from './tables';
export * from './captions';
