export * from './facts';
export * from './judge';
export * from './match';
