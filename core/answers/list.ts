// Lists that a market gives of what stands with it: its shelf, and what it finds by words.
import { readRecords, toEntries } from '../forms/containers';
import type { Rulebook } from '../rulebook/schema';

export interface ShelfLine {
  sku: string;
  /** The site it speaks of; undefined where the list knows none. */
  site: string | undefined;
  number: string;
  state: string;
  reason: string;
}
export interface FoundEntry {
  number: string;
  title: string;
  brand: string;
  identifier: string;
  category: string;
}
export type ListReading<T> = { ok: true; lines: T[] } | { ok: false; reason: string };

/** Cells of a list by what they are, in the names of the rulebook. */
function readList(book: Rulebook, name: 'shelf' | 'find', text: string): ListReading<Record<string, string>> {
  const terms = book.lists[name];
  if (!terms) return { ok: false, reason: 'The rulebook describes no such list.' };
  const slots = Object.entries(terms.slots).filter((s): s is [string, string] => s[1] !== undefined);
  const reading = readRecords(
    terms.container,
    slots.map(([, column]) => column),
    text,
  );
  if (!reading.ok) return reading;
  return {
    ok: true,
    lines: reading.records.map((cells) =>
      Object.fromEntries(slots.map(([slot, column]) => [slot, toEntries(cells[column])[0] ?? ''])),
    ),
  };
}

/** Lines of the market's shelf list. The site is one of ours, by the code that the forms give it. */
export function readShelfList(book: Rulebook, text: string): ListReading<ShelfLine> {
  const reading = readList(book, 'shelf', text);
  if (!reading.ok) return reading;
  const sites = listSiteCodes(book);
  return {
    ok: true,
    lines: reading.lines.map((l) => ({
      sku: l['sku'] ?? '',
      site: l['site'] ? (sites.get(l['site']) ?? l['site']) : undefined,
      number: l['number'] ?? '',
      state: l['state'] ?? '',
      reason: l['reason'] ?? '',
    })),
  };
}

/** Entries that the market found. */
export function readFoundList(book: Rulebook, text: string): ListReading<FoundEntry> {
  const reading = readList(book, 'find', text);
  if (!reading.ok) return reading;
  return {
    ok: true,
    lines: reading.lines.map((l) => ({
      number: l['number'] ?? '',
      title: l['title'] ?? '',
      brand: l['brand'] ?? '',
      identifier: l['identifier'] ?? '',
      category: l['category'] ?? '',
    })),
  };
}

/** Keys of sites by the codes that forms give them. */
const listSiteCodes = (book: Rulebook): ReadonlyMap<string, string> =>
  new Map(
    book.forms.flatMap((f) =>
      f.slots.flatMap((s) =>
        s.holds.what === 'site' ? Object.entries(s.holds.codes).map(([site, code]) => [code, site] as const) : [],
      ),
    ),
  );
