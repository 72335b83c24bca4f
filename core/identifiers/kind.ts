import { convertGtin, parseGtin } from './gtin';
import { parseIsbn } from './isbn';
import { fromIssnBarcode, parseIssn } from './issn';

/** The kinds of identifier that a file's "kind of number" column tells apart. */
export const identifierKinds = ['gtin-8', 'gtin-12', 'gtin-13', 'gtin-14', 'isbn-10', 'isbn-13', 'issn'] as const;
export type IdentifierKind = (typeof identifierKinds)[number];

/** Kind of a typed number, or undefined where it is none that we know. A 978 number is an ISBN first. */
export function detectIdentifierKind(text: string): IdentifierKind | undefined {
  const isbn = parseIsbn(text);
  if (isbn.ok) return text.replace(/[\s-]/g, '').length === 10 ? 'isbn-10' : 'isbn-13';
  if (/^\d{4}-\d{3}[\dXx]$/.test(text.trim()) && parseIssn(text).ok) return 'issn';
  const gtin = parseGtin(text);
  return gtin.ok ? `gtin-${gtin.length}` : undefined;
}

/**
 * The same number as another kind, where a field does not take the kind that it is: an ISBN of ten places as one of thirteen
 * and back (ISO 2108), a GTIN with noughts before it or without them (GS1 General Specifications, 3.3). Undefined where the
 * field takes it as it is, and where nothing that is taken says the same: an ISSN is in its barcode, but has many of them.
 */
export function fitIdentifier(text: string, kinds: readonly IdentifierKind[]): string | undefined {
  const kind = detectIdentifierKind(text);
  const takes = (k: IdentifierKind): boolean => kinds.includes(k);
  if (kind === undefined || kind === 'issn' || takes(kind)) return undefined;
  const issn = takes('issn') ? fromIssnBarcode(text.trim()) : undefined;
  if (issn !== undefined) return issn;
  const isbn = parseIsbn(text);
  if (isbn.ok) {
    if (kind === 'isbn-10') return takes('isbn-13') || takes('gtin-13') ? isbn.isbn13 : undefined;
    return takes('isbn-10') && !takes('gtin-13') ? isbn.isbn10 : undefined;
  }
  // A short one filled up to the length of an ordinary one would be read as another.
  if (kind === 'gtin-8') return takes('gtin-14') ? convertGtin(text.trim(), 14) : undefined;
  for (const [k, length] of [
    ['gtin-13', 13],
    ['gtin-12', 12],
    ['gtin-14', 14],
  ] as const) {
    const fit = takes(k) ? convertGtin(text.trim(), length) : undefined;
    if (fit !== undefined) return fit;
  }
  return undefined;
}
