// A small market with two sites and two languages that writes and answers otherwise than the first one: for tests.
import { parseRulebook, type Rulebook } from '../rulebook';
import { smallDocument } from './builders';

const delimited = (heads: object[], more: object = {}): object => ({
  kind: 'delimited',
  encoding: 'utf-8-mark',
  delimiter: 'semicolon',
  heads,
  ...more,
});
const text = { decimalSign: ',', dates: 'dd.MM.yyyy', yes: 'ja', no: 'nej', money: 'currency-places' };
const site = (key: string, country: string, currency: string, language: string, rate: string): object => ({
  key,
  name: `Fair ${country}`,
  country,
  currency,
  languages: [language],
  pricesInclude: 'tax',
  taxes: [{ rate }, { rate: '0.07', when: { attribute: 'washable', is: ['no'] } }],
});
const field = (key: string, label: string, type: string, more: object = {}): object => ({
  key,
  label,
  group: 'all',
  type,
  ...more,
});

export const fairDocument = (
  change: (d: Record<string, never>) => void = () => undefined,
): Record<string, unknown> => ({
  ...smallDocument((d) => {
    Object.assign(d, {
      unitPrice: undefined,
      market: { key: 'fair', name: 'Fair', languages: ['de', 'sv'] },
      sites: [site('de', 'DE', 'EUR', 'de', '0.19'), site('se', 'SE', 'SEK', 'sv', '0.25')],
      attributes: [
        field('name', 'Titel', 'text', {
          by: 'language',
          from: 'title',
          maxCharacters: 20,
          textRules: ['no-promotion'],
        }),
        field('maker', 'Marke', 'text', { from: 'brand' }),
        field('number', 'Nummer', 'identifier', { kinds: ['gtin-13'], from: 'gtin', rows: 'sellable' }),
        field('photos', 'Bilder', 'links', { part: 'pictures', from: 'pictures' }),
        field('cost', 'Preis', 'money', { by: 'site', part: 'price', from: 'price', rows: 'sellable' }),
        field('sale', 'Aktion', 'money', { by: 'site', part: 'price', rows: 'sellable' }),
        field('from', 'Aktion ab', 'date', { by: 'site', part: 'price', rows: 'sellable' }),
        field('pieces', 'Menge', 'integer', { part: 'stock', from: 'stock', rows: 'sellable' }),
        field('deep', 'Tiefe', 'measure', { units: ['mm', 'cm'] }),
        field('washable', 'Spülmaschine', 'yes-no'),
      ],
      demandSets: { kitchen: [{ attribute: 'washable', level: 'should' }] },
      demands: [
        ...['name', 'maker', 'cost', 'pieces'].map((attribute) => ({ attribute, level: 'must' })),
        { attribute: 'sale', level: 'may' },
        { attribute: 'from', level: 'must', when: { attribute: 'sale', filled: true } },
      ],
      tree: [
        {
          key: 'home',
          label: 'Küche',
          uses: ['kitchen'],
          demands: [{ attribute: 'deep', level: 'should' }],
          axes: ['deep'],
        },
        { key: 'pans', code: 'P-10', label: 'Pfannen', parent: 'home', takesItems: true, words: ['pan'] },
        {
          key: 'pots',
          code: 'P-20',
          label: 'Töpfe',
          parent: 'home',
          takesItems: true,
          demands: [{ attribute: 'deep', level: 'must' }],
          axes: ['washable'],
        },
      ],
      roles: {
        title: 'name',
        brand: 'maker',
        identifier: 'number',
        price: 'cost',
        salePrice: 'sale',
        saleStart: 'from',
        quantity: 'pieces',
        pictures: 'photos',
      },
      text: { promotionalWords: { de: ['bestpreis'], sv: ['fri frakt'] } },
      fees: [
        { sites: ['de'], tiers: [{ rate: '0.12' }], fixed: '0.35' },
        { sites: ['se'], tiers: [{ rate: '0.13' }], fixed: '3' },
      ],
      operations: {
        create: { form: 'goods', carries: 'whole' },
        revise: { form: 'goods', carries: 'whole' },
        price: { form: 'offers', carries: 'whole' },
        stock: { form: 'offers', carries: 'whole' },
        restore: { as: 'create' },
      },
      forms: [
        {
          key: 'goods',
          label: 'Waren',
          container: delimited([{ row: 'labels', language: 'de' }, { row: 'labels', language: 'sv' }, { row: 'keys' }]),
          text,
          blank: 'clears',
          maxRecords: 100,
          slots: [
            { key: 'nr', label: 'Nummer', holds: { what: 'sku' } },
            {
              key: 'titel_de',
              label: 'Titel (de)',
              labels: { sv: 'Namn (de)' },
              holds: { what: 'value', attribute: 'name@de' },
            },
            {
              key: 'titel_sv',
              label: 'Titel (sv)',
              labels: { sv: 'Namn (sv)' },
              holds: { what: 'value', attribute: 'name@sv' },
            },
            { key: 'djup_mm', label: 'Tiefe mm', holds: { what: 'amount', attribute: 'deep', in: 'mm' } },
            {
              key: 'disk',
              label: 'Spülmaschine',
              labels: { sv: 'Diskmaskin' },
              holds: { what: 'value', attribute: 'washable' },
            },
            { key: 'vara', label: 'Ware', holds: { what: 'category' } },
            { key: 'grupp', label: 'Familie', holds: { what: 'parent-sku' } },
          ],
        },
        {
          key: 'offers',
          label: 'Preise',
          record: 'listing-at-site',
          container: delimited([{ row: 'keys' }], { quotes: 'always' }),
          text,
          blank: 'clears',
          maxRecords: 100,
          slots: [
            { key: 'nr', holds: { what: 'sku' } },
            { key: 'land', holds: { what: 'site', codes: { de: 'DE', se: 'SE' } } },
            { key: 'pris', holds: { what: 'value', attribute: 'cost@' } },
            { key: 'valuta', holds: { what: 'currency' } },
            { key: 'fran', holds: { what: 'value', attribute: 'from@' } },
            { key: 'antal', holds: { what: 'value', attribute: 'pieces' } },
          ],
        },
      ],
      answers: [
        {
          key: 'fel',
          container: delimited([{ row: 'keys' }], { before: ['^Datei;(?<file>[^;]+);abgelehnt;\\d+$'] }),
          slots: { line: 'rad', code: 'felkod', field: 'falt' },
          verdict: { always: 'refused' },
          lineCounts: 'file-lines',
          unnamed: 'accepted',
          severalBy: ',',
        },
      ],
      codes: { '101': { says: 'Ein Pflichtfeld ist leer.', remedy: 'Fill the field.' } },
      lists: {
        shelf: {
          container: delimited([{ row: 'keys' }]),
          slots: { sku: 'nr', site: 'land', number: 'id', state: 'laege' },
        },
      },
      states: { aktiv: { is: 'live', entry: 'stands' } },
    });
    change(d);
  }),
});

export function fairRulebook(change?: (d: Record<string, never>) => void): Rulebook {
  const reading = parseRulebook(fairDocument(change));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
}
