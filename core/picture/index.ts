export * from './gray';
export * from './motion';
export * from './similarity';
export * from './quality';
export * from './camera';
export * from './scenes';
export * from './faces';
