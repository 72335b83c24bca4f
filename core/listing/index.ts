export * from './values';
export * from './resolve';
