export * from './steadying';
