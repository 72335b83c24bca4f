export * from './allocate';
