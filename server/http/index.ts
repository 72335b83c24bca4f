export * from './errors';
export * from './guard';
export * from './route';
export { shareRuns } from './share-runs';
export { receiveUpload } from './upload';
