export * from './delta';
export * from './encoding';
export * from './holds';
export * from './layout';
export * from './receipt';
export * from './surprise';
