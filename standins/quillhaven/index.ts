export type { BookDocument } from './book';
export { createJudge, isTrueNumber } from './judge';
export * from './server';
export { openShelf } from './shelf';
export { endReviews, workThrough } from './work';
