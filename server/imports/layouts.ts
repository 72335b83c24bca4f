// What the columns of a file were found to mean, kept for the next file with the same headings.
import { importReading, type ImportReadingShape } from '@basileus/contract';
import type { FieldBook } from '@basileus/core/product';
import { chooseKnownBy, keepKnownBy } from '@basileus/core/sheet';
import { foldLoosely } from '@basileus/core/text';
import { z } from 'zod';
import { type Db, parseColumn, rowOf } from '../database';
import { loadRates } from '../markets';

/** Columns that the file of refused rows has behind those of its import. */
export const refusedHeadings = ['Row', 'Why it was refused'] as const;
const ownHeadings = refusedHeadings.map(foldLoosely).join('\n');

/** A file's headings as one text: their words in order, without the columns that we put behind them ourselves. */
export function getFingerprint(columns: readonly { name: string }[]): string {
  const names = columns.map((c) => foldLoosely(c.name));
  const all = names.join('\n');
  return all.endsWith(`\n${ownHeadings}`) ? all.slice(0, -ownHeadings.length - 1) : all;
}

/** A field by column; several, where its cells hold several measures; the currency with it, where its amounts are in another. */
const layoutFields = z.array(
  z.union([z.string(), z.array(z.string()), z.object({ field: z.string(), currency: z.string() })]).nullable(),
);
const layoutReplacements = importReading.shape.replacements;
interface LayoutRow {
  fields: unknown;
  replacements: unknown;
  decimal_sign: ImportReadingShape['decimalSign'];
  list_separator: string;
  from_file: string;
  known_by: ImportReadingShape['knownBy'];
  makes_skus: boolean;
}

const isCorrection = (why: ImportReadingShape['columns'][number]['why']): boolean =>
  why === 'chosen' || why === 'left-out' || why === 'given' || why === 'remembered';

/** Keeps a reading that a person has corrected. */
export async function rememberLayout(db: Db, file: string, reading: ImportReadingShape): Promise<void> {
  // Without headings one file is like any other with as many columns.
  const isCorrected =
    reading.columns.some((c) => isCorrection(c.why)) ||
    reading.replacements.length > 0 ||
    reading.knownBy !== chooseKnownBy(reading.columns) ||
    reading.makesSkus;
  if (reading.headerRow < 0 || !isCorrected) return;
  await db.raw(
    `insert into import_layouts (fingerprint, fields, decimal_sign, list_separator, from_file, replacements, known_by, makes_skus)
      values (md5(?), ?, ?, ?, ?, ?, ?, ?)
      on conflict (fingerprint) do update set fields = excluded.fields, decimal_sign = excluded.decimal_sign,
        list_separator = excluded.list_separator, from_file = excluded.from_file,
        replacements = excluded.replacements, known_by = excluded.known_by, makes_skus = excluded.makes_skus, updated_at = now()`,
    [
      getFingerprint(reading.columns),
      JSON.stringify(
        reading.columns.map((c) =>
          c.converts && c.field !== null ? { field: c.field, currency: c.converts.currency } : (c.parts ?? c.field),
        ),
      ),
      reading.decimalSign,
      reading.listSeparator,
      file,
      JSON.stringify(reading.replacements),
      reading.knownBy,
      reading.makesSkus,
    ],
  );
}

/** The reading with what was remembered of such a file; the file that it was remembered from, where there is one. */
export async function recallLayout(
  db: Db,
  reading: ImportReadingShape,
  /** All that there are by now. */
  held: FieldBook,
): Promise<{ reading: ImportReadingShape; from: string | null }> {
  if (reading.headerRow < 0) return { reading, from: null };
  const known = await rowOf<LayoutRow>(db, 'select * from import_layouts where fingerprint = md5(?)', [
    getFingerprint(reading.columns),
  ]);
  if (!known) return { reading, from: null };
  const rates = new Map((await loadRates(db)).map((r) => [r.currency, r.rate]));
  const fields = parseColumn('import_layouts.fields', layoutFields, known.fields);
  const columns = reading.columns.map((c, i): ImportReadingShape['columns'][number] => {
    const said = [fields[i] ?? []].flat(),
      all = said.map((f) => (typeof f === 'object' ? f.field : f)),
      field = all[0] ?? null,
      currency = said.flatMap((f) => (typeof f === 'object' ? f.currency : []))[0];
    const isHeld = all.every((f) => held.get(f) !== undefined),
      isSame =
        field === c.field &&
        all.length === (c.parts?.length ?? Number(field !== null)) &&
        currency === c.converts?.currency;
    if (!isHeld || isSame) return c;
    const { parts: _, converts: __, ...column } = c,
      rate = currency === undefined ? undefined : rates.get(currency);
    // Amounts in a currency of which no rate is known any more are none of the house's.
    if (currency !== undefined && rate === undefined) return { ...column, field: null, why: 'remembered' };
    return {
      ...column,
      field,
      ...(all.length > 1 ? { parts: all } : {}),
      ...(currency === undefined || rate === undefined ? {} : { converts: { currency, rate } }),
      why: 'remembered',
    };
  });
  return {
    from: known.from_file,
    reading: {
      ...reading,
      listSeparator: known.list_separator,
      decimalSign: reading.decimalSign === 'undetermined' ? known.decimal_sign : reading.decimalSign,
      replacements: parseColumn('import_layouts.replacements', layoutReplacements, known.replacements),
      columns,
      knownBy: keepKnownBy(known.known_by, columns),
      makesSkus: known.makes_skus,
    },
  };
}
