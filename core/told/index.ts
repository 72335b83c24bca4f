export * from './amounts';
export * from './words';
