import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import type { DemoMarket } from './types';

export const lumbara: DemoMarket = {
  key: 'lumbara',
  document: lumbaraDocument,
  settings: { buffer: 2, least: 1 },
  texts: [
    ['shinkyu', '1'],
    ['zei', '1'],
  ],
  categories: new Map([
    ['Frying pans', 'furaipan'],
    ['Woks', 'chukanabe'],
    ['Saucepans', 'katatenabe'],
    ['Stock pots', 'ryotenabe'],
    ['Casseroles', 'nikominabe'],
    ['Baking tins', 'yakigata'],
    ['Kitchen knives', 'hocho'],
    ['Boards', 'manaita'],
    ['Kettles', 'ketoru'],
    ['Toasters', 'tosuta'],
    ['Scales', 'hakari'],
    ['Plates', 'sara'],
    ['Bowls', 'hachi'],
    ['Mugs', 'magu'],
    ['Glasses', 'gurasu'],
    ['Teapots', 'potto'],
    ['Tablecloths', 'takufu'],
    ['Napkins', 'napukin'],
    ['Tea towels', 'fukin'],
    ['Loose tea', 'chaba'],
    ['Tea bags', 'teibaggu'],
    ['Coffee', 'kohimame'],
  ]),
  typed: { chaba: { zei: '2' }, teibaggu: { zei: '2', sanchi: '91' }, kohimame: { zei: '2' } },
};
