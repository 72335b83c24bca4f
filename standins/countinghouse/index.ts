export type { Article } from './articles';
export * from './server';
