export type { BookDocument } from './book';
export { createJudge, isBarcode } from './judge';
export * from './server';
export { readSheet } from './sheet';
export { openShelf } from './shelf';
export { endReviews, workThrough } from './work';
export { addOther, putLists } from './lists';
export type { Other } from './others';
