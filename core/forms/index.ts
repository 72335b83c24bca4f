export * from './containers';
export * from './encoding';
export * from './form';
export * from './record';
export * from './look';
