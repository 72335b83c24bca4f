export * from './make';
