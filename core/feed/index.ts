export * from './delta';
export * from './layout';
export * from './receipt';
export * from './surprise';
