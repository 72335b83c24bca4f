// What the parts of the stand-in share: its rules, its shelf, its times and its moods.
import { type Moods as FrameMoods, type Pace, startMoods as startFrameMoods } from '../frame';
import type { BookDocument } from './book';
import type { Shelf } from './shelf';

export interface Moods extends FrameMoods {
  uncleared: string[];
}
export interface MarketOptions extends Pace {
  book: BookDocument;
}
export interface Market {
  options: MarketOptions;
  shelf: Shelf;
  moods: Moods;
}

export const startMoods = (): Moods => ({ ...startFrameMoods(), uncleared: ['Tidewrack Trading Co'] });
