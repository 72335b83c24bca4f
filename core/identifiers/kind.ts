import { parseGtin } from './gtin';
import { parseIsbn } from './isbn';
import { parseIssn } from './issn';

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
