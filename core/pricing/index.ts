export * from './margin';
