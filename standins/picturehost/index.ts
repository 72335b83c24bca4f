export * from './draw';
export * from './server';
