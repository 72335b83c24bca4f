export * from './answer';
export * from './list';
