export * from './entry';
export * from './values';
export * from './resolve';
export * from './state';
export * from './standing';
