// What the parts of the stand-in share: its rules, its shelf, its times and its moods.
import type { BookDocument } from './book';
import type { Shelf } from './shelf';

export interface Moods {
  slowMs: number;
  failNext: number;
  garbageNext: number;
  hangUpNext: number;
  forgetNext: number;
  uncleared: string[];
}
export interface MarketOptions {
  book: BookDocument;
  file?: string;
  workMs: number;
  reviewMs: number;
  sellEveryMs: number;
}
export interface Market {
  options: MarketOptions;
  shelf: Shelf;
  moods: Moods;
}

export const startMoods = (): Moods => ({
  slowMs: 0,
  failNext: 0,
  garbageNext: 0,
  hangUpNext: 0,
  forgetNext: 0,
  uncleared: ['Tidewrack Trading Co'],
});

/** An answer in plain text. */
export interface Answer {
  status: number;
  text: string;
}
