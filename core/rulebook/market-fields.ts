// The fields of a market's listings as fields that can be asked of, changed in bulk and named in formulas, beside our own.
import { type ProductField, toMarketKey } from '../product/fields';
import { listLeaves } from './compile';
import { findMomentTerms } from './moment-terms';
import type { Rulebook, RulebookAttribute } from './schema';
import type { AttributeType } from './terms';

const kindOf: Readonly<Record<AttributeType, ProductField['kind']>> = {
  text: 'text',
  'long-text': 'long-text',
  html: 'long-text',
  integer: 'integer',
  decimal: 'number',
  money: 'money',
  'yes-no': 'yes-no',
  'one-of': 'text',
  'several-of': 'list',
  date: 'date',
  moment: 'date',
  measure: 'measure',
  identifier: 'identifier',
  links: 'list',
  'repeated-text': 'list',
};

/** Where a listing stands in the tree of its market is changed and asked like one of its fields. */
export const categoryAttribute = 'category';
/** What the price of a listing leaves, in percent, is asked and shown like one of its fields; no attribute has such a key. */
export const marginAttribute = '~margin';

/** The fields of the listings of a market, which is called by `name`; its category first, what is worked out last. */
export function listMarketFields({ key, name }: { key: string; name: string }, book: Rulebook): ProductField[] {
  return [
    toField(
      key,
      name,
      { key: categoryAttribute, label: 'Category' },
      'text',
      listLeaves(book).map((l) => ({ code: l.key, label: l.path.join(' › ') })),
    ),
    ...book.attributes.map((a) => toAttributeField({ key, name }, book, a)),
    toField(key, name, { key: marginAttribute, label: 'Margin (%)' }, 'number', undefined, {
      rows: 'sellable',
      made: true,
    }),
  ];
}

/** One attribute of a market as such a field. */
export const toAttributeField = (
  { key, name }: { key: string; name: string },
  book: Rulebook,
  a: RulebookAttribute,
): ProductField =>
  toField(key, name, a, kindOf[a.type], a.codes === undefined ? undefined : book.codeLists[a.codes]?.entries, {
    rows: a.rows === 'sellable' || a.rows === 'variant' ? 'sellable' : 'all',
    ...(a.type === 'money' ? { currency: currencyOf(book, a) } : {}),
    ...(book.offers.some((o) => o.price === a.key || o.salePrice === a.key) ? { sells: true } : {}),
    ...(a.facet?.language === undefined ? {} : { language: a.facet.language }),
    ...(a.units === undefined ? {} : { unit: a.units[0]! }),
    ...(a.type === 'moment' ? { moment: findMomentTerms(book, a) } : {}),
  });

function toField(
  market: string,
  name: string,
  named: { key: string; label: string },
  kind: ProductField['kind'],
  entries: readonly { code: string; label: string; also?: readonly string[] }[] | undefined,
  more: Partial<ProductField> = {},
): ProductField {
  return {
    key: toMarketKey(market, named.key),
    label: `${named.label} on ${name}`,
    kind,
    fact: false,
    rows: 'all',
    group: name,
    market,
    ...(entries === undefined
      ? {}
      : {
          values: entries.map((e) => e.code),
          words: Object.fromEntries(entries.map((e) => [e.code, e.label])),
          also: Object.fromEntries(entries.flatMap((e) => (e.also?.length ? [[e.code, e.also]] : []))),
        }),
    ...more,
  };
}

const currencyOf = (book: Rulebook, { facet }: RulebookAttribute): string =>
  (book.sites.find((s) => s.key === facet?.site) ?? book.sites[0]!).currency;
