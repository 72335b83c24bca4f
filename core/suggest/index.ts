export * from './category';
export * from './families';
