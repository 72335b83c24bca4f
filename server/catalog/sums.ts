// What fields add up to over rows of the catalog as its table shows them.
import type { SumOfField, sumRows } from '@basileus/contract';
import { padMoney } from '@basileus/core/quantity';
import type { z } from 'zod';
import { type ProductField, readMarketKey } from '@basileus/core/product';
import { listingsSql, loadWideFields, toListSql, toNumberSql, toTextSql } from '../choose';
import { type Db, rowOf } from '../database';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { type ListedRows, listRows } from '../products';
import { toFilter } from './service';
import { say } from '@basileus/core/text';

const numeric = new Set(['money', 'number', 'integer']);

/** How many rows are filled in each field, and of numbers the sum, the least and the most. Throws where there is no such field. */
export async function loadSums(db: Db, { fields, ...query }: z.output<typeof sumRows.body>): Promise<SumOfField[]> {
  const book = await ([...fields, query.sort].some(readMarketKey) ? loadWideFields(db) : loadFields(db));
  const listed = await listRows(db, await toFilter(db, query, book));
  const all = fields.map((key) => {
    const field = book.get(key);
    if (!field) throw new AppError('bad-input', say`The catalog has no field “${key}”.`, { field: 'fields' });
    return field;
  });
  // What listings hold is added up market by market.
  const places = [...new Set(all.map((f) => f.market))];
  const sums = new Map<string, SumOfField>();
  for (const market of places) {
    const asked = all.filter((f) => f.market === market);
    for (const sum of await sumUp(db, { ...query, ...listed }, asked, market)) sums.set(sum.field, sum);
  }
  return fields.flatMap((key) => sums.get(key) ?? []);
}

/** The same of fields of items, or of those of one market. */
async function sumUp(
  db: Db,
  { page, bindings, offset, limit }: ListedRows & { offset: number; limit: number },
  asked: readonly ProductField[],
  market: string | undefined,
): Promise<SumOfField[]> {
  const select = asked.map((f, i) => {
    if (numeric.has(f.kind)) {
      const n = toNumberSql(f);
      return `count(${n})::int as filled${i}, count(${n})::int as numbers${i}, sum(${n})::text as sum${i}, min(${n})::text as least${i}, max(${n})::text as most${i}`;
    }
    const filled =
      f.kind === 'list' ? `count(*) filter (where jsonb_array_length(${toListSql(f)}) > 0)` : `count(${toTextSql(f)})`;
    return `${filled}::int as filled${i}`;
  });
  const row = (await rowOf<Record<string, string | number | null>>(
    db,
    `with page as materialized (${page}) select ${select.join(', ')} from page join products p on p.id = page.id ${listingsSql(market)}`,
    [...bindings, offset, limit, ...(market === undefined ? [] : [market])],
  ))!;
  return asked.map((f, i) => {
    const amount = (name: string): string | null => {
      const n = row[`${name}${i}`];
      return typeof n !== 'string' ? null : f.kind === 'money' ? padMoney(n) : n;
    };
    return {
      field: f.key,
      filled: Number(row[`filled${i}`]),
      numbers: Number(row[`numbers${i}`] ?? 0),
      sum: amount('sum'),
      least: amount('least'),
      most: amount('most'),
    };
  });
}
