export * from './subtitles';
