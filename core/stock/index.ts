export * from './allocate';
export * from './share';
