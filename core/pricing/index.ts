export * from './made';
export * from './margin';
export * from './unit-price';
