import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import type { DemoMarket } from './types';

export const torgvik: DemoMarket = {
  key: 'torgvik',
  document: torgvikDocument,
  settings: { buffer: 3, least: 1 },
  texts: [
    ['ansvarig_eu', 'Brindlewick Continental, Kai 4, 21147 Hafenstadt'],
    ['moms_klass', 'M1'],
    ['ledtid', 'D3'],
    ['jamforenhet', 'KG'],
  ],
  categories: new Map([
    ['Frying pans', 'stekpannor'],
    ['Woks', 'wokar'],
    ['Saucepans', 'kastruller'],
    ['Stock pots', 'grytor_hoga'],
    ['Casseroles', 'grytor'],
    ['Baking tins', 'bakformar'],
    ['Kitchen knives', 'knivar'],
    ['Boards', 'brador'],
    ['Kettles', 'vattenkokare'],
    ['Toasters', 'brodrostar'],
    ['Scales', 'vagar'],
    ['Plates', 'tallrikar'],
    ['Bowls', 'skalar'],
    ['Mugs', 'muggar'],
    ['Glasses', 'glas'],
    ['Teapots', 'tekannor'],
    ['Tablecloths', 'dukar'],
    ['Napkins', 'servetter'],
    ['Tea towels', 'kokshanddukar'],
    ['Loose tea', 'te_losvikt'],
    ['Coffee', 'kaffe'],
  ]),
  sitesOut: { Napkins: ['se'] },
  typed: {
    te_losvikt: { moms_klass: 'M2' },
    kaffe: { moms_klass: 'M2', 'innehall@de': 'Kaffeebohnen, geröstet' },
    vattenkokare: { energi: 'B' },
  },
};
