export * from './errors';
export * from './route';
