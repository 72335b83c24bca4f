export * from './queries';
