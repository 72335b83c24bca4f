export * from './boss';
export * from './clock';
export * from './enqueue';
export * from './kind';
export * from './routes';
export * from './run';
export * from './threads';
export * from './worker';
