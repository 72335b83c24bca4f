export * from './memory';
export * from './serve';
export * from './works';
