export * from './change';
export * from './patch';
export * from './merge';
export * from './name';
