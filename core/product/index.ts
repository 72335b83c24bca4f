export * from './fields';
export * from './house';
export * from './own-value';
export * from './heading';
export * from './same';
export * from './word';
