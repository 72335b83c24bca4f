export * from './finding';
export * from './define-check';
export * from './registry';
export * from './run';
export * from './word';
export * from './remedy';
export { listBoundOffers } from './rules/prior-price';
