export * from './types';
export * from './slots';
export * from './marks';
export * from './features';
export * from './fill';
export * from './toReel';
export * from './create';
export * from './gather';
