// A rulebook made of a blank template and of what a person says beside it: one market that takes the workbook by hand, with
// one category, to which further ones come each with a template of its own. What templates do not say is left open; it can be
// written into the document later.
import type { FieldBook } from '../product';
import type { RulebookDraft } from '../rulebook';
import { draftForm, type SaidOfColumns, toKey } from './draft-form';
import type { TemplateReading } from './understand-template';

/** What a person says of a template beside what it says itself. */
export interface CategorySettings {
  /** The category that the template is for. */
  category: string;
  columns: SaidOfColumns;
}
export interface TemplateSettings extends CategorySettings {
  /** How the market is called. */
  name: string;
  /** ISO 3166-1, ISO 4217 and ISO 639-1. */
  country: string;
  currency: string;
  language: string;
}

/** What has to be filled before a document can be made of it. */
export type DraftFault = 'no-sku' | 'no-name' | 'no-category';

/** The key of the first form that a drafted rulebook has. */
export const draftedForm = 'template';

/** Characters of a SKU where a template says nothing of it: as many as one of ours has. */
const longestSku = 60;
const findSku = ({ columns }: TemplateReading, said: SaidOfColumns) =>
  columns.find((c) => ((said[c.index]?.field ?? c.field) || undefined) === 'sku');
/** Characters that a template leaves a SKU. */
export const countSku = (reading: TemplateReading, said: SaidOfColumns): number =>
  findSku(reading, said)?.maxCharacters ?? longestSku;

/** What a template and what is said of it leave open. */
export const findDraftFaults = (reading: TemplateReading, { category, columns }: CategorySettings): DraftFault[] => [
  ...(findSku(reading, columns) ? [] : (['no-sku'] as const)),
  ...(category.trim() === '' ? (['no-category'] as const) : []),
];

/** The form of a template, all but its slots. */
export const frameForm = (
  key: string,
  market: string,
  category: string,
  { sheet, heads }: TemplateReading,
): Omit<RulebookDraft['forms'][number], 'slots'> => ({
  key,
  label: `Template for ${category}`,
  container: {
    kind: 'workbook',
    sheet: sheet.replace(/[\\/?*[\]:']/g, ' ').slice(0, 31),
    heads: (['labels', 'keys'] as const)
      .filter((row) => heads[row] !== undefined)
      .sort((a, b) => heads[a]! - heads[b]!)
      .map((row) => ({ row })),
  },
  text: { money: 'currency-places' },
  blank: 'clears',
  maxRecords: 10_000,
  // Several templates of one market are told apart by what they are for.
  fileName: `${market}-${toKey(category)}-{stamp}.xlsx`,
});

/** Makes the document, or says what is missing. It is to be read by `parseRulebook` like any other. */
export function draftRulebook(
  reading: TemplateReading,
  settings: TemplateSettings,
  fields: FieldBook,
  version: string,
): { document: RulebookDraft } | { faults: DraftFault[] } {
  const faults = [
    ...findDraftFaults(reading, settings),
    ...(settings.name.trim() === '' ? (['no-name'] as const) : []),
  ];
  if (faults.length > 0) return { faults };

  const site = settings.country.toLowerCase(),
    name = settings.name.trim(),
    category = settings.category.trim();
  const { slots, attributes, codeLists, demands, roles } = draftForm(reading, settings.columns, fields, site);
  const whole = { form: draftedForm, carries: 'whole' as const };
  const answer = { kind: 'delimited' as const, delimiter: 'comma' as const, heads: [{ row: 'keys' as const }] };
  const key = toKey(name);
  return {
    document: {
      format: 'basileus-rulebook/2',
      version,
      market: { key, name, languages: [settings.language] },
      sites: [
        {
          key: site,
          name,
          country: settings.country,
          currency: settings.currency,
          languages: [settings.language],
          pricesInclude: 'tax',
          taxes: [{ rate: '0' }],
        },
      ],
      sku: { min: 1, max: countSku(reading, settings.columns), allowed: 'printable' },
      groups: [{ key: 'all', label: 'All' }],
      codeLists,
      attributes,
      demands: [],
      tree: [{ key: toKey(category), label: category, code: category, takesItems: true, demands }],
      families: { parents: 'none' },
      roles,
      offer: { quantityCap: 999_999 },
      // An item may have more pictures than the template has places for; the first go.
      pictures: {
        min: demands.some((d) => d.attribute === roles.pictures && d.level === 'must') ? 1 : 0,
        ...{ advised: 1, max: 100 },
        schemes: ['https', 'http'],
        endings: ['.jpg', '.jpeg', '.png', '.webp'],
      },
      text: {},
      fees: [{ tiers: [{ rate: '0' }] }],
      operations: { create: whole, revise: whole, price: whole, stock: whole },
      forms: [{ ...frameForm(draftedForm, key, category, reading), slots }],
      answers: [
        {
          key: 'answer',
          container: answer,
          slots: { line: 'line', sku: 'sku', verdict: 'verdict', code: 'code', field: 'field', says: 'says' },
          verdict: { words: { accepted: 'accepted', remarked: 'remarked', refused: 'refused' } },
          unnamed: 'accepted',
        },
      ],
      codes: {},
      lists: { shelf: { container: answer, slots: { sku: 'sku', number: 'number', state: 'state' } } },
      states: { live: { is: 'live', entry: 'stands' }, gone: { is: 'withdrawn', entry: 'gone' } },
      transport: { kind: 'by-hand' },
    },
  };
}
