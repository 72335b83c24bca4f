export * from './patch';
