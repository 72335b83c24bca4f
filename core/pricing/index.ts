export * from './made';
export * from './margin';
export * from './unit-price';
export * from './prior-price';
export * from './listing-margin';
