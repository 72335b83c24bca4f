// By what the items of a file are known: our SKU; or where a supplier has none of ours, the barcode or the maker's part number.
import { padGtin, parseGtin, parseIsbn, toIsbn13 } from '../identifiers';
import type { FieldBook } from '../product';
import { findReplacement, type ImportReading, writtenIn } from './read-row';
import { readIdentifier } from './read-identifier';

export const knownBys = ['sku', 'gtin', 'mpn'] as const;
export type KnownBy = (typeof knownBys)[number];

/** What stands for a row: the items of ours that have its barcode or part number, by their SKUs; none where it has none. */
export interface KnownAs {
  by: Exclude<KnownBy, 'sku'>;
  /** As it stands in the row. */
  value: string;
  skus: readonly string[];
  /** The SKU that it gets from that where it is new and has none of its own. */
  made?: string;
}

/** What rows can be known by, the first of these that a column holds. */
export const chooseKnownBy = (columns: readonly { field: string | null }[]): KnownBy =>
  knownBys.find((by) => columns.some((c) => c.field === by)) ?? 'sku';

/** What was wanted, where a column holds it. */
export const keepKnownBy = (wanted: KnownBy, columns: readonly { field: string | null }[]): KnownBy =>
  columns.some((c) => c.field === wanted) ? wanted : chooseKnownBy(columns);

/**
 * The barcode of a row in fourteen figures, so that all lengths of a number are one (GS1 General Specifications, 3.3.2), or its part
 * number; '' where it has none that can be read. With it what stands in the cell, and the SKU that can be made of it.
 */
export function readKey(
  cells: readonly string[],
  reading: ImportReading,
  by: KnownAs['by'],
  fields: Pick<FieldBook, 'get'>,
): { key: string; value: string; sku: string } {
  const known = fields.get(by),
    column = reading.columns.find((c) => c.field === by);
  if (!known || !column) return { key: '', value: '', sku: '' };
  const written = writtenIn(cells, column.index, known),
    value = findReplacement(reading, by, written) ?? written;
  return by === 'gtin' ? { value, ...readBarcode(value, reading) } : { key: value, value, sku: value };
}

function readBarcode(cell: string, reading: ImportReading): { key: string; sku: string } {
  const read = cell === '' ? undefined : readIdentifier(cell, 'gtin', reading, undefined, []);
  if (typeof read !== 'string') return { key: '', sku: '' };
  const isbn = parseIsbn(read),
    gtin = parseGtin(isbn.ok && read.length === 10 ? toIsbn13(read) : read);
  return gtin.ok ? { key: padGtin(gtin.digits), sku: read } : { key: '', sku: '' };
}
