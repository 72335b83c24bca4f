export * from './containers';
export * from './encoding';
export * from './form';
export * from './record';
export * from './look';
export { prepareSlot } from './slot';
