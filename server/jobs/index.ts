export * from './queue';
export * from './routes';
