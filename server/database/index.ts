export * from './connection';
export * from './migrations';
