export * from './terms';
export * from './schema';
export * from './parse';
export * from './expand';
export * from './condition';
export * from './compile';
export * from './compare';
export * from './fields';
