export * from './articles';
