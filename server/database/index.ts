export * from './column';
export * from './connection';
export * from './migrations';
export * from './copy';
export * from './tallies';
