export * from './carried';
export * from './delta';
export * from './by-clock';
export * from './holds';
export * from './surprise';
