// A rulebook made ready: attributes that have a value a language or a site become one flat field for each, so that
// values, findings, changes and columns stay flat and nothing else learns another shape.
import { houseCurrency, houseLanguage } from '../product/house';
import { isDestination, settleDemands } from './condition';
import type { Facet, Offer, Rulebook, RulebookAttribute, RulebookDocument, Site } from './schema';
import type { Circumstance, Condition } from './schema-basics';

type DocumentAttribute = RulebookDocument['attributes'][number];
/** Name of one of an attribute's fields: `title@sv`, `price@se`. */
export const toFacetKey = (attribute: string, facet: string): string => `${attribute}@${facet}`;

/** The field of ours that feeds an attribute in one language or at one site, where it is not the house's own. */
function facetSource(from: string | undefined, facet: Facet, currencyOf: (site: string) => string): string | undefined {
  if (from === undefined) return undefined;
  const other =
    facet.language !== undefined
      ? facet.language === houseLanguage
        ? undefined
        : facet.language
      : moneyFields.has(from) && currencyOf(facet.site!) !== houseCurrency
        ? currencyOf(facet.site!).toLowerCase()
        : undefined;
  return other === undefined ? from : `fact.${from.replace(/^fact\./, '')}@${other}`;
}
const moneyFields: ReadonlySet<string> = new Set(['price', 'sale_price', 'fact.list_price']);

/** A label in the language of the house, where the rulebook has one: what people here read. */
const labelOf = (thing: { label: string; labels?: Readonly<Record<string, string>> | undefined }): string =>
  thing.labels?.[houseLanguage] ?? thing.label;
const labelled = <T extends { label: string; labels?: Readonly<Record<string, string>> | undefined }>(thing: T): T => ({
  ...thing,
  label: labelOf(thing),
});

/** What an entry is called in the market's own language stays beside what we call it: other people's files say it. */
const keepLabel = <T extends { label: string; labels?: Readonly<Record<string, string>> | undefined }>(
  entry: T,
  said: string,
  { market }: Pick<RulebookDocument, 'market'>,
): T => (entry.label === said ? entry : { ...entry, labels: { [market.languages[0]!]: said, ...entry.labels } });

function spread(a: DocumentAttribute, book: RulebookDocument): RulebookAttribute[] {
  const currencyOf = (site: string): string => book.sites.find((s) => s.key === site)!.currency;
  if (a.by === undefined) {
    // What is one in all is in the money of the first site.
    const from = a.type === 'money' ? facetSource(a.from, { of: a.key, site: book.sites[0]!.key }, currencyOf) : a.from;
    return [{ ...a, label: labelOf(a), ...(from === undefined ? {} : { from }) }];
  }
  const facets: Facet[] =
    a.by === 'language'
      ? book.market.languages.map((l) => ({ of: a.key, language: l }))
      : book.sites.map((s) => ({ of: a.key, site: s.key }));
  return facets.map((facet) => {
    const name = facet.language ?? facet.site!;
    const from = facetSource(a.from, facet, currencyOf);
    return {
      ...a,
      key: toFacetKey(a.key, name),
      ...(a.was === undefined ? {} : { was: a.was.map((w) => toFacetKey(w, name)) }),
      // Of one language or site alone nothing has to be told apart.
      label: facets.length === 1 ? labelOf(a) : `${labelOf(a)} (${name})`,
      facet,
      ...(from === undefined ? {} : { from }),
    };
  });
}

/** The fields of an attribute, of those alone that share the facet of another where they are by the same thing. */
function fieldsOf(fields: ReadonlyMap<string, readonly RulebookAttribute[]>, key: string, beside?: Facet): string[] {
  const all = fields.get(key) ?? [];
  const same = beside && all.filter((f) => f.facet?.language === beside.language && f.facet?.site === beside.site);
  return (same?.length ? same : all).map((f) => f.key);
}

/** The sites that a value goes to: its own, those that read its language, or all. */
const sitesOf = (book: RulebookDocument, facet: Facet | undefined): readonly Site[] =>
  facet?.site !== undefined
    ? book.sites.filter((s) => s.key === facet.site)
    : facet?.language !== undefined
      ? book.sites.filter((s) => s.languages.includes(facet.language!))
      : book.sites;
const tellWhere =
  (sites: readonly Site[]) =>
  (c: Circumstance): boolean | undefined =>
    'site' in c
      ? sites.some((s) => c.site.includes(s.key))
      : 'destination' in c
        ? sites.some((s) => isDestination(s.country, c.destination))
        : undefined;

function spreadCondition(
  c: Condition,
  fields: ReadonlyMap<string, readonly RulebookAttribute[]>,
  facet: Facet | undefined,
): Condition {
  if ('all' in c) return { all: c.all.map((x) => spreadCondition(x, fields, facet)) };
  if ('any' in c) return { any: c.any.map((x) => spreadCondition(x, fields, facet)) };
  if ('not' in c) return { not: spreadCondition(c.not, fields, facet) };
  if (!('attribute' in c)) return c;
  const keys = fieldsOf(fields, c.attribute, facet);
  if (keys.length === 1) return { ...c, attribute: keys[0]! };
  return { any: keys.map((attribute) => ({ ...c, attribute })) };
}

/** The document with flat attributes, demands and roles; offers and titles named by site and language. */
export function expandRulebook(book: RulebookDocument): Rulebook {
  const fields = new Map(book.attributes.map((a) => [a.key, spread(a, book)] as const));
  const spreadDemands = (demands: RulebookDocument['demands']): RulebookDocument['demands'] =>
    demands.flatMap((d) =>
      (fields.get(d.attribute) ?? []).flatMap((f) =>
        settleDemands(
          [{ ...d, attribute: f.key, ...(d.when ? { when: spreadCondition(d.when, fields, f.facet) } : {}) }],
          tellWhere(sitesOf(book, f.facet)),
        ),
      ),
    );
  const { roles } = book;
  const first = (key: string): string => fields.get(key)![0]!.key;
  const isBySite = fields.get(roles.price)![0]!.facet?.site !== undefined;
  const at = <K extends string | undefined>(key: K, site: Site): K =>
    (key === undefined ? undefined : fieldsOf(fields, key, isBySite ? { of: key, site: site.key } : undefined)[0]) as K;
  return {
    ...book,
    groups: book.groups.map(labelled),
    codeLists: Object.fromEntries(
      Object.entries(book.codeLists).map(([k, list]) => [
        k,
        { ...labelled(list), entries: list.entries.map((e) => keepLabel(labelled(e), e.label, book)) },
      ]),
    ),
    forms: book.forms.map(labelled),
    attributes: [...fields.values()].flat(),
    demandSets: Object.fromEntries(Object.entries(book.demandSets).map(([k, d]) => [k, spreadDemands(d)])),
    demands: spreadDemands(book.demands),
    tree: book.tree.map((n) => ({
      ...labelled(n),
      demands: spreadDemands(n.demands),
      axes: n.axes.map(first),
      limits: n.limits.flatMap((l) => (fields.get(l.attribute) ?? []).map((f) => ({ ...l, attribute: f.key }))),
    })),
    roles: Object.fromEntries(
      Object.entries(roles).flatMap(([role, key]) => (key === undefined ? [] : [[role, first(key)]])),
    ) as RulebookDocument['roles'],
    offers: (isBySite ? book.sites : book.sites.slice(0, 1)).map((site): Offer => ({
      site: {
        ...site,
        taxes: settleDemands(
          site.taxes.map((t) => ({
            ...t,
            ...(t.when ? { when: spreadCondition(t.when, fields, undefined) } : {}),
          })),
          tellWhere([site]),
        ),
      },
      price: at(roles.price, site),
      salePrice: at(roles.salePrice, site),
      saleStart: at(roles.saleStart, site),
      saleEnd: at(roles.saleEnd, site),
      floor: at(roles.floor, site),
      ceiling: at(roles.ceiling, site),
    })),
    titles: fields.get(roles.title)!.map((f) => ({
      field: f.key,
      language: f.facet?.language ?? book.market.languages[0]!,
    })),
  };
}
