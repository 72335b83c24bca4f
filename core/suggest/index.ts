export * from './category';
export * from './clues';
export * from './families';
export * from './leaf-model';
