export * from './types';
export * from './lines';
export * from './style';
export * from './layout';
export * from './ass';
export * from './tapped';
