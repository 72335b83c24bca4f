export * from './made';
export * from './margin';
export * from './price-leaving';
export * from './unit-price';
export * from './prior-price';
export * from './listing-margin';
