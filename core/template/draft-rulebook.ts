// A rulebook made of a blank template and of what a person says beside it: one market that takes the workbook by hand, with
// one category. What the template does not say is left open; it can be written into the document later.
import type { FieldBook, ProductField } from '../product';
import { readHeadingUnit } from '../product';
import { splitWords } from './split-words';
import type { TemplateColumn, TemplateLevel, TemplateReading } from './understand-template';

export interface TemplateSettings {
  /** How the market is called, and the category that the template is for. */
  name: string;
  category: string;
  /** ISO 3166-1, ISO 4217 and ISO 639-1. */
  country: string;
  currency: string;
  language: string;
  /** What a person says of columns, by their places: another field of ours (none where it is empty), another level. */
  columns: Readonly<Record<number, { field?: string; level?: TemplateLevel }>>;
}

/** What has to be filled before a document can be made of it. */
export type DraftFault = 'no-sku' | 'no-name' | 'no-category';

/** The key of the one form that a drafted rulebook has. */
export const draftedForm = 'template';

type Loose = Record<string, unknown>;

/** A key of a rulebook: small letters, digits and underscores, a letter first. */
export function toKey(text: string, taken: ReadonlySet<string> = new Set()): string {
  const plain = splitWords(text)
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, 40);
  const base = /^[a-z]/.test(plain) ? plain : `field${plain === '' ? '' : `_${plain}`}`;
  let key = base;
  for (let n = 2; taken.has(key); n++) key = `${base}_${n}`;
  return key;
}

/** Fields of ours that are a part of the row itself, not a value of the listing. */
const ofRow: Readonly<Record<string, string>> = { sku: 'sku', parent_sku: 'parent-sku', category: 'category' };
/** What a market has to know of every item, by our fields; an attribute that no column holds is asked of nobody. */
const roleOf = {
  title: 'title',
  brand: 'brand',
  gtin: 'identifier',
  price: 'price',
  stock: 'quantity',
  pictures: 'pictures',
} as const;
const shapes: Readonly<Record<string, Loose>> = {
  title: { type: 'text' },
  brand: { type: 'text' },
  gtin: { type: 'identifier', kinds: ['gtin-8', 'gtin-12', 'gtin-13', 'gtin-14'], rows: 'sellable' },
  price: { type: 'money', part: 'price', by: 'site', rows: 'sellable' },
  sale_price: { type: 'money', part: 'price', by: 'site', rows: 'sellable' },
  stock: { type: 'integer', part: 'stock', rows: 'sellable' },
  pictures: { type: 'links', part: 'pictures' },
  highlights: { type: 'repeated-text' },
};

/** How a value of a field of ours is told to a market that says no more of it than a heading. */
function shapeOf(
  field: ProductField | undefined,
  { values, heading, maxCharacters }: TemplateColumn,
  codes: string,
): Loose {
  if (values.length > 0) return { type: field?.kind === 'list' ? 'several-of' : 'one-of', codes };
  const known = field && shapes[field.key];
  if (known) return known;
  switch (field?.kind) {
    case 'long-text':
      return { type: 'long-text' };
    case 'integer':
      return { type: 'integer' };
    case 'number':
      return { type: 'decimal', decimals: 3 };
    case 'money':
      return { type: 'money', by: 'site', rows: 'sellable' };
    case 'date':
      return { type: 'date' };
    case 'yes-no':
      return { type: 'yes-no' };
    case 'list':
      return { type: 'repeated-text' };
    case 'measure': {
      const unit = readHeadingUnit(heading) ?? field.unit;
      return unit === undefined ? { type: 'text' } : { type: 'measure', units: [unit], decimals: 2 };
    }
    default:
      return { type: maxCharacters !== undefined && maxCharacters > oneLine ? 'long-text' : 'text' };
  }
}

/** Characters of a SKU where a template says nothing of it: as many as one of ours has. */
const longestSku = 60;
/** Characters of which a text is no longer one line. */
const oneLine = 300;
const levelRank: readonly TemplateLevel[] = ['may', 'should', 'must'];

/** Makes the document, or says what is missing. It is to be read by `parseRulebook` like any other. */
export function draftRulebook(
  { sheet, heads, columns }: TemplateReading,
  settings: TemplateSettings,
  fields: FieldBook,
  version: string,
): { document: Loose } | { faults: DraftFault[] } {
  const fieldAt = (c: TemplateColumn): string | undefined => (settings.columns[c.index]?.field ?? c.field) || undefined;
  const faults: DraftFault[] = [
    ...(columns.some((c) => fieldAt(c) === 'sku') ? [] : (['no-sku'] as const)),
    ...(settings.name.trim() === '' ? (['no-name'] as const) : []),
    ...(settings.category.trim() === '' ? (['no-category'] as const) : []),
  ];
  if (faults.length > 0) return { faults };

  const site = settings.country.toLowerCase();
  const taken = new Set<string>();
  const attributes: Loose[] = [],
    demands: Loose[] = [],
    codeLists: Record<string, Loose> = {};
  const roles: Record<string, string> = {};
  /** Attributes that several columns share, by the field of ours: pictures one to five. */
  const shared = new Map<string, { key: string; columns: number }>();
  const levels = new Map<string, TemplateLevel>();
  const listAt = (c: TemplateColumn): string | undefined => {
    const f = fieldAt(c);
    return f !== undefined && fields.get(f)?.kind === 'list' && c.values.length === 0 ? f : undefined;
  };
  const columnsOf = (field: string): number => columns.filter((c) => listAt(c) === field).length;

  const addAttribute = (c: TemplateColumn): string => {
    const own = fieldAt(c);
    const field = own === undefined ? undefined : fields.get(own);
    const key = toKey(c.key ?? c.label, taken);
    taken.add(key);
    const shape = shapeOf(field, c, key);
    if (c.values.length > 0)
      codeLists[key] = {
        label: c.label.slice(0, 80) || key,
        entries: c.values.map((v) => ({ code: v.slice(0, 200), label: v.slice(0, 200) })),
      };
    const isText = shape['type'] === 'text' || shape['type'] === 'long-text';
    attributes.push({
      key,
      label: (c.label || key).slice(0, 80),
      group: 'all',
      ...shape,
      ...(isText && c.maxCharacters !== undefined ? { maxCharacters: c.maxCharacters } : {}),
      ...(shape['type'] === 'repeated-text' && own !== undefined && columnsOf(own) > 1
        ? { maxItems: columnsOf(own) }
        : {}),
      ...(c.help === undefined ? {} : { help: c.help }),
      ...(c.example === undefined ? {} : { example: c.example }),
      ...(own === undefined ? {} : { from: own }),
    });
    const role = own === undefined ? undefined : roleOf[own as keyof typeof roleOf];
    if (role !== undefined && roles[role] === undefined) roles[role] = key;
    return key;
  };
  const want = (key: string, level: TemplateLevel): void => {
    const before = levels.get(key);
    if (before === undefined || levelRank.indexOf(level) > levelRank.indexOf(before)) levels.set(key, level);
  };

  const width = Math.max(...columns.map((c) => c.index)) + 1;
  const byPlace = new Map(columns.map((c) => [c.index, c]));
  const slotKeys = new Set<string>();
  const nameSlot = (text: string): string => {
    let name = text;
    for (let n = 2; slotKeys.has(name); n++) name = `${text} ${n}`;
    slotKeys.add(name);
    return name;
  };
  const slots = Array.from({ length: width }, (_, index): Loose => {
    const c = byPlace.get(index) ?? {
      ...{ index, heading: '', label: '', key: undefined, level: 'may' as const, levelFrom: undefined, values: [] },
      ...{ help: undefined, example: undefined, maxCharacters: undefined, field: undefined },
    };
    const level = settings.columns[index]?.level ?? c.level;
    const heading = c.heading || `Column ${index + 1}`;
    const named = { key: nameSlot(c.key ?? heading), label: heading };
    const own = fieldAt(c);
    if (own !== undefined && ofRow[own] !== undefined) return { ...named, holds: { what: ofRow[own] } };
    const list = listAt(c);
    if (list !== undefined) {
      const known = shared.get(list) ?? { key: addAttribute(c), columns: 0 };
      shared.set(list, { ...known, columns: known.columns + 1 });
      // The first of several must be filled where the template says so; the others are its further places.
      want(known.key, known.columns === 0 ? level : 'may');
      return columnsOf(list) === 1
        ? { ...named, holds: { what: 'value', attribute: known.key } }
        : { ...named, holds: { what: 'item', attribute: known.key, position: known.columns + 1 } };
    }
    const key = addAttribute(c);
    if (c.heading !== '') want(key, level);
    const made = attributes.at(-1)!;
    if (made['type'] === 'measure')
      return { ...named, holds: { what: 'amount', attribute: key, in: (made['units'] as string[])[0] } };
    return { ...named, holds: { what: 'value', attribute: made['by'] === 'site' ? `${key}@${site}` : key } };
  });
  for (const [own, role] of Object.entries(roleOf)) {
    if (roles[role] !== undefined) continue;
    const key = toKey(own, taken);
    taken.add(key);
    attributes.push({ key, label: fields.labelOf(own), group: 'all', ...shapes[own], from: own });
    roles[role] = key;
  }
  for (const [attribute, level] of levels) demands.push({ attribute, level });

  const pictures = shared.get('pictures');
  const whole = { form: draftedForm, carries: 'whole' };
  const headRows = (
    [
      ['labels', heads.labels],
      ['keys', heads.keys],
    ] as const
  )
    .filter(([, row]) => row !== undefined)
    .sort(([, a], [, b]) => a! - b!)
    .map(([row]) => ({ row }));
  const answer = { kind: 'delimited', delimiter: 'comma', heads: [{ row: 'keys' }] };
  const key = toKey(settings.name);
  return {
    document: {
      format: 'basileus-rulebook/2',
      version,
      market: { key, name: settings.name.trim(), languages: [settings.language] },
      sites: [
        {
          key: site,
          name: settings.name.trim(),
          country: settings.country,
          currency: settings.currency,
          languages: [settings.language],
          pricesInclude: 'tax',
          taxes: [{ rate: '0' }],
        },
      ],
      sku: {
        min: 1,
        max: columns.find((c) => fieldAt(c) === 'sku')?.maxCharacters ?? longestSku,
        allowed: 'printable',
      },
      groups: [{ key: 'all', label: 'All' }],
      codeLists,
      attributes,
      demands,
      tree: [
        {
          key: toKey(settings.category),
          label: settings.category.trim(),
          code: settings.category.trim(),
          takesItems: true,
        },
      ],
      families: { parents: 'none' },
      roles,
      offer: { quantityCap: 999_999 },
      pictures: {
        min: pictures && levels.get(pictures.key) === 'must' ? 1 : 0,
        advised: 1,
        // An item may have more pictures than the template has places for; the first go.
        max: 100,
        schemes: ['https', 'http'],
        endings: ['.jpg', '.jpeg', '.png', '.webp'],
      },
      text: {},
      fees: [{ tiers: [{ rate: '0' }] }],
      operations: { create: whole, revise: whole, price: whole, stock: whole },
      forms: [
        {
          key: draftedForm,
          label: 'The template',
          container: { kind: 'workbook', sheet: sheet.replace(/[\\/?*[\]:']/g, ' ').slice(0, 31), heads: headRows },
          text: { money: 'currency-places' },
          blank: 'clears',
          maxRecords: 10_000,
          fileName: `${key}-{stamp}.xlsx`,
          slots,
        },
      ],
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
