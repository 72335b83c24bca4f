export * from './errors';
export * from './guard';
export * from './route';
export { receiveUpload } from './upload';
