import { cedarpost } from './cedarpost';
import { lumbara } from './lumbara';
import { quillhaven } from './quillhaven';
import { torgvik } from './torgvik';
import type { DemoMarket } from './types';
import { wadiline } from './wadiline';

export type { DemoMarket } from './types';
/** What a pound buys, as somebody in the house has said. */
export const demoRates: readonly (readonly [currency: string, rate: string])[] = [
  ['EUR', '1.17'],
  ['SEK', '13.2'],
  ['USD', '1.29'],
  ['KWD', '0.396'],
  ['JPY', '198'],
];
/** The markets of the demo, in the order in which they are shown. */
export const demoMarkets: readonly DemoMarket[] = [quillhaven, torgvik, cedarpost, wadiline, lumbara];
