import { quillhaven } from './quillhaven';
import { torgvik } from './torgvik';
import type { DemoMarket } from './types';

export type { DemoMarket } from './types';
/** The markets of the demo, in the order in which they are shown. */
export const demoMarkets: readonly DemoMarket[] = [quillhaven, torgvik];
