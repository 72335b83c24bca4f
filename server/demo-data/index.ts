export * from './load';
