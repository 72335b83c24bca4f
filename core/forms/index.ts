export * from './delimited';
export * from './encoding';
export * from './form';
export * from './record';
