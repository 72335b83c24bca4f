export * from './patch';
export * from './merge';
