export * from './made';
export * from './margin';
