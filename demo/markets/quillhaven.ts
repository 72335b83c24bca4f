import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { lines } from '../catalog';
import type { DemoMarket } from './types';

export const quillhaven: DemoMarket = {
  key: 'quillhaven',
  document: quillhavenDocument,
  settings: { buffer: 2, least: 1 },
  texts: [
    ['condition', 'fresh'],
    ['handling_days', 'h2'],
    ['tax_class', 'full'],
    ['delivery_profile', 'small'],
    ['voltage', '230 V'],
    ['plug_kind', 'three'],
    ['age_limited', 'yes'],
    ['edge_kind', 'smooth'],
    ['auto_off', 'yes'],
    ['battery_needed', 'yes'],
    ['batteries_included', 'yes'],
    ['weighing_limit', '5 kg'],
    ['weighing_step', '1 g'],
    ['roast', 'medium'],
    ['issue_rhythm', 'quart'],
  ],
  sources: [
    {
      attribute: 'search_words',
      node: 'cookware',
      source: {
        is: 'formula',
        formula: 'lower([category]) & if([fact.material] = "", "", " " & lower([fact.material]))',
      },
    },
  ],
  categories: new Map(lines.flatMap((l) => (l.leaf ? [[l.category, l.leaf] as const] : []))),
  // Hobs for some pans, lids, care of some linen.
  typed: {
    frying_pans: {
      hob_kinds: ['gas', 'elec', 'cera', 'indu'],
      coating: 'season',
      oven_safe_to: '250 °C',
      lid_included: 'no',
      handle_kind: 'fixed',
    },
    table_linen: { care_notes: ['w40', 'iron'], pattern_name: 'plain' },
    kitchen_knives: { handle_kind: 'fixed' },
  },
};
