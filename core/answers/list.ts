// Lists that a market gives of what stands with it: its shelf, and what it finds by words.
import { type Cells, readRecords, toEntries } from '../forms/containers';
import type { MarketEntry } from '../listing/values';
import type { Container, Rulebook } from '../rulebook/schema';

export interface ShelfLine {
  sku: string;
  /** The site it speaks of; undefined where the list knows none. */
  site: string | undefined;
  number: string;
  state: string;
  reason: string;
  /** What it shows of prices and stock, by attribute, of the site that it speaks of where they are by site. */
  shows: Record<string, string>;
}
export interface FoundEntry {
  number: string;
  title: string;
  brand: string;
  identifier: string;
  category: string;
  /** What it says of itself beside that, by attribute. */
  facts: Record<string, string>;
}
export type ListReading<T> = { ok: true; lines: T[] } | { ok: false; reason: string };

/** Cells of a list by what they are, in the names of the rulebook. */
function readList(
  container: Container,
  named: Readonly<Record<string, string | undefined>>,
  text: string,
): ListReading<Record<string, string>> & { seen?: ReadonlySet<string> } {
  const slots = Object.entries(named).filter((s): s is [string, string] => s[1] !== undefined);
  const reading = readRecords(
    container,
    slots.map(([, column]) => column),
    text,
  );
  if (!reading.ok) return reading;
  // What no record names at all, the list does not tell.
  const seen = new Set(
    slots
      .filter(([, column]) => reading.records.some((cells) => (cells[column] ?? null) !== null))
      .map(([slot]) => slot),
  );
  const toLine = (cells: Cells): Record<string, string> =>
    Object.fromEntries(slots.map(([slot, column]) => [slot, toEntries(cells[column])[0] ?? '']));
  return { ok: true, lines: reading.records.map(toLine), seen };
}

/** Lines of the market's shelf list. The site is one of ours, by the code that the forms give it. */
export function readShelfList(book: Rulebook, text: string): ListReading<ShelfLine> {
  const { container, slots } = book.lists.shelf;
  const { facts, ...own } = slots;
  const named = listFacts(facts);
  // How entries stand is read also where a list shows neither prices nor stock.
  const whole = readList(container, withFacts(own, named), text);
  const reading = whole.ok || named.length === 0 ? whole : readList(container, own, text);
  if (!reading.ok) return reading;
  const sites = listSiteCodes(book);
  const keys = new Set(book.attributes.map((a) => a.key));
  return {
    ok: true,
    lines: reading.lines.map((l) => {
      const site = l['site'] ? (sites.get(l['site']) ?? l['site']) : undefined;
      const shows: Record<string, string> = {};
      for (const { attribute, slot } of named) {
        const bySite = `${attribute}@${site ?? ''}`;
        const field = keys.has(bySite) ? bySite : keys.has(attribute) ? attribute : undefined;
        if (field !== undefined && reading.seen?.has(slot)) shows[field] = toNumberText(l[slot] ?? '');
      }
      return {
        sku: l['sku'] ?? '',
        site,
        number: l['number'] ?? '',
        state: l['state'] ?? '',
        reason: l['reason'] ?? '',
        shows,
      };
    }),
  };
}

interface Fact {
  attribute: string;
  slot: string;
  column: string;
}
const listFacts = (facts: Readonly<Record<string, string>>): Fact[] =>
  Object.entries(facts).map(([attribute, column]) => ({ attribute, slot: `fact ${attribute}`, column }));
const withFacts = (slots: Readonly<Record<string, string | undefined>>, facts: readonly Fact[]) => ({
  ...slots,
  ...Object.fromEntries(facts.map((f) => [f.slot, f.column])),
});
/** A number as we write it: a machine that writes a comma means a decimal sign. */
const toNumberText = (text: string): string => (/^\d+,\d+$/.test(text) ? text.replace(',', '.') : text.trim());

/** Entries that the market found. */
export function readFoundList(book: Rulebook, text: string): ListReading<FoundEntry> {
  if (!book.lists.find) return { ok: false, reason: 'The rulebook describes no such list.' };
  const { facts, ...slots } = book.lists.find.slots;
  const named = listFacts(facts);
  const reading = readList(book.lists.find.container, withFacts(slots, named), text);
  if (!reading.ok) return reading;
  return {
    ok: true,
    lines: reading.lines.map((l) => ({
      number: l['number'] ?? '',
      title: l['title'] ?? '',
      brand: l['brand'] ?? '',
      identifier: l['identifier'] ?? '',
      category: l['category'] ?? '',
      facts: Object.fromEntries(
        named.flatMap(({ attribute, slot }) => (l[slot] ? [[attribute, l[slot]] as const] : [])),
      ),
    })),
  };
}

/** A found entry as an offer that joins it knows it: brand and number are facts like others. */
export const toMarketEntry = ({ roles, tree }: Rulebook, found: FoundEntry): MarketEntry => ({
  number: found.number,
  title: found.title,
  category: tree.find((n) => n.takesItems && (n.code ?? n.key) === found.category)?.key ?? '',
  facts: {
    ...(found.brand === '' ? {} : { [roles.brand]: found.brand }),
    ...(found.identifier === '' ? {} : { [roles.identifier]: found.identifier }),
    ...found.facts,
  },
});

/** Keys of sites by the codes that forms give them. */
const listSiteCodes = (book: Rulebook): ReadonlyMap<string, string> =>
  new Map(
    book.forms.flatMap((f) =>
      f.slots.flatMap((s) =>
        s.holds.what === 'site' ? Object.entries(s.holds.codes).map(([site, code]) => [code, site] as const) : [],
      ),
    ),
  );
