export * from './category';
