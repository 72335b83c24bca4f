export * from './facts';
export * from './judge';
