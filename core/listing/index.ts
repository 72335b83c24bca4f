export * from './called';
export * from './codes';
export * from './entry';
export * from './values';
export * from './resolve';
export * from './source';
export * from './state';
export * from './standing';
