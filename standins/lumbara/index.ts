export type { BookDocument } from './book';
export { createJudge, isBarcode } from './judge';
export * from './server';
export { readText, toCells } from './sheet';
export { openShelf } from './shelf';
export { endReviews, workThrough } from './work';
