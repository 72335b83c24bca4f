export * from './delta';
export * from './encoding';
export * from './layout';
export * from './receipt';
export * from './surprise';
