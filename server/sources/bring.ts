// The rows of a business system as a file of ours, which is imported as any other: looked at, mended, written, taken back.
import type { ImportReadingShape } from '@basileus/contract';
import { toDay } from '@basileus/core/quantity';
import { writeRows } from '@basileus/core/sheet';
import { createClashJudge, createFamilyMaker, type FamilyRow, type SourceRules } from '@basileus/core/source';
import type { FieldBook } from '@basileus/core/product';
import { ownReading } from '../imports';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { loadProductRows, toFields } from '../products';
import { mustLoadSource, noRunCounts, openRows, readColumns, readRules, type RunCounts } from './queries';
import { prepareFor } from './try';
import { say } from '@basileus/core/text';

export interface Brought {
  reading: ImportReadingShape;
  sample: string[][];
  counts: RunCounts;
  /** The file, a stretch of lines after the other. Made as it is read. */
  lines: () => AsyncGenerator<Uint8Array>;
}

const write = (rows: readonly (readonly string[])[]): Uint8Array =>
  Buffer.from(writeRows(rows, { delimiter: ',', newline: '\r\n', forPeople: false }));

/** SKUs that several rows form by the rules, and counts of what becomes of all rows. */
async function judgeRows(db: Db, id: number, rules: SourceRules, columns: readonly string[], book: FieldBook) {
  const made = prepareFor(rules, columns, book);
  if (!made.ok)
    throw new AppError('bad-input', say`The rules of this business system cannot be worked out any more.`, {
      field: 'rules',
      remedy: say`Look at the rules; the columns of the system may have changed.`,
    });
  const clashes = createClashJudge(),
    families = createFamilyMaker(
      rules.fields.map((f) => f.field),
      (f) => !book.isOfSellable(f),
    ),
    counts = { ...noRunCounts },
    today = toDay(new Date());
  for await (const batch of openRows(db, id))
    for (const { n, cells } of batch) {
      counts.rows++;
      const formed = made.former.form(cells, today);
      if (formed.is === 'formed') {
        clashes.note(formed.sku, n);
        if (formed.family !== '') families.note(formed.family, formed.values);
      } else if (formed.is === 'left-out') counts.leftOut++;
      else if (formed.is === 'no-sku') counts.noSku++;
      else counts.faults++;
    }
  counts.clashes = clashes.list().reduce((n, c) => n + c.count, 0);
  counts.formed = counts.rows - counts.leftOut - counts.noSku - counts.faults;
  return { former: made.former, clashes, counts, today, families: families.list() };
}

/**
 * Makes the file. What several rows would be is left out, all of them; of what is ours once it was written, nothing is given
 * where we hold something; a family is named only for what is new.
 */
export async function bringRows(db: Db, id: number): Promise<Brought> {
  const source = await mustLoadSource(db, id);
  const rules = readRules(source),
    book = await loadFields(db);
  const { former, clashes, counts, today, families } = await judgeRows(db, id, rules, readColumns(source), book);
  const fields = ['sku', 'parent_sku', ...rules.fields.map((f) => f.field)];
  const unknown = fields.find((f) => !book.get(f));
  if (unknown !== undefined)
    throw new AppError('bad-input', say`We have no field “${unknown}” any more.`, {
      field: 'rules',
      remedy: say`Choose another field of ours for that column.`,
    });
  const header = fields.map((f) => book.labelOf(f));
  // A family is made where a new variant names one that is not there, neither here nor among the rows.
  const fresh = source.mode === 'update' ? [] : await findNewFamilies(db, families, (sku) => clashes.has(sku));
  async function* listLines(): AsyncGenerator<string[][]> {
    if (fresh.length > 0) yield fresh.map((f) => [f.sku, '', ...f.values.map((v, i) => former.tidy(v, i))]);
    for await (const batch of openRows(db, id)) {
      const formed = batch.flatMap(({ cells }) => {
        const f = former.form(cells, today);
        return f.is === 'formed' && !clashes.isClash(f.sku) ? [f] : [];
      });
      const skus = formed.map((f) => f.sku);
      const held = new Map(
        (await loadProductRows(db, 'p.sku = any(?)', [skus])).map((r) => [
          r.sku,
          { kind: r.kind, fields: toFields(r) },
        ]),
      );
      yield formed.map((f) => {
        const known = held.get(f.sku);
        return [
          f.sku,
          known ? '' : f.family,
          ...rules.fields.map((rule, i) => {
            const isOurs = rule.owner === 'first' && known !== undefined && known.fields[rule.field] !== undefined;
            const isDerived = known?.kind === 'bundle' && rule.field === 'stock';
            return isOurs || isDerived ? '' : former.tidy(f.values[i] ?? '', i);
          }),
        ];
      });
    }
  }
  const sample = [header];
  // Families come first, and say nothing of what is sold: rows behind them are shown too.
  let stretches = 0;
  for await (const lines of listLines()) {
    sample.push(...lines.slice(0, 12));
    if (++stretches === 2) break;
  }
  return {
    counts,
    sample,
    reading: {
      ...ownReading,
      listSeparator: '|',
      columns: fields.map((field, index) => ({
        index,
        name: header[index]!,
        samples: sample
          .slice(1)
          .flatMap((r) => (r[index] ? [r[index].slice(0, 200)] : []))
          .slice(0, 3),
        field,
        why: 'chosen',
      })),
      mode: source.mode,
    },
    lines: async function* () {
      yield write([header]);
      for await (const lines of listLines()) if (lines.length > 0) yield write(lines);
    },
  };
}

const familiesAtOnce = 5000;
/** Families whose SKU neither the catalog nor a row has. */
async function findNewFamilies(
  db: Db,
  families: readonly FamilyRow[],
  isRow: (sku: string) => boolean,
): Promise<FamilyRow[]> {
  const fresh: FamilyRow[] = [];
  for (let i = 0; i < families.length; i += familiesAtOnce) {
    const some = families.slice(i, i + familiesAtOnce).filter((f) => !isRow(f.sku));
    const held = new Set(
      (await rowsOf<{ sku: string }>(db, 'select sku from products where sku = any(?)', [some.map((f) => f.sku)])).map(
        (p) => p.sku,
      ),
    );
    fresh.push(...some.filter((f) => !held.has(f.sku)));
  }
  return fresh;
}

/** How many of an import's rows would change something, out of how many rows. */
export const loadShare = async (db: Db, id: number): Promise<{ news: number; rows: number; refused: number }> =>
  (
    await rowsOf<{ news: number; rows: number; refused: number }>(
      db,
      `select coalesce((counts ->> 'create')::int, 0) + coalesce((counts ->> 'update')::int, 0) as news,
        coalesce((counts ->> 'rows')::int, 0) as rows, coalesce((counts ->> 'refuse')::int, 0) as refused from imports where id = ?`,
      [id],
    )
  )[0] ?? { news: 0, rows: 0, refused: 0 };
