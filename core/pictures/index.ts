export * from './facts';
