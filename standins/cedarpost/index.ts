export type { BookDocument } from './book';
export { sellerKey } from './gate';
export { createJudge, isItemCode } from './judge';
export * from './server';
export { openShelf } from './shelf';
export { endReviews, workThrough } from './work';
