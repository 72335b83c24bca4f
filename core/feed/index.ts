export * from './carried';
export * from './delta';
export * from './holds';
export * from './surprise';
