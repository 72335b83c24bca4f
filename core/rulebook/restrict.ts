// A rulebook as it holds for an item that is not sold at all of a market's sites: what is of the others alone is not in it.
import type { Facet, Rulebook, RulebookAttribute, Site } from './schema';

/** True for a value that is of one of these sites: its price, a text that somebody there reads, or one value in all. */
const isOf = (sites: readonly Site[], facet: Facet | undefined): boolean =>
  facet?.site !== undefined
    ? sites.some((s) => s.key === facet.site)
    : facet?.language !== undefined
      ? sites.some((s) => s.languages.includes(facet.language!))
      : true;

/**
 * The rulebook without some of its sites. Roles that were of a site or a language that is left go over to the first that
 * stays. Throws where no site would.
 */
export function restrictRulebook(book: Rulebook, out: readonly string[]): Rulebook {
  const sites = book.sites.filter((s) => !out.includes(s.key));
  if (sites.length === 0) throw new Error(`${book.market.name} would be left with no site.`);
  if (sites.length === book.sites.length) return book;
  const attributes = book.attributes.filter((a) => isOf(sites, a.facet));
  const kept = new Set(attributes.map((a) => a.key));
  const byKey = new Map(book.attributes.map((a) => [a.key, a]));
  const stay = (key: string): string =>
    kept.has(key) ? key : (findPeer(attributes, byKey.get(key)?.facet)?.key ?? key);
  return {
    ...book,
    sites,
    attributes,
    offers: book.offers.filter((o) => kept.has(o.price)),
    titles: book.titles.filter((t) => kept.has(t.field)),
    roles: Object.fromEntries(
      Object.entries(book.roles).map(([role, key]) => [role, key === undefined ? key : stay(key)]),
    ) as Rulebook['roles'],
  };
}

const findPeer = (attributes: readonly RulebookAttribute[], facet: Facet | undefined): RulebookAttribute | undefined =>
  facet && attributes.find((a) => a.facet?.of === facet.of);
