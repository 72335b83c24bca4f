export * from './columns';
export * from './containers';
export * from './encoding';
export * from './form';
export * from './record';
export * from '../rulebook/form-choice';
export * from './look';
export * from './sample';
export { prepareSlot } from './slot';
