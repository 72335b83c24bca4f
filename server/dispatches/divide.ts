// Dividing what goes into files: by records, and by bytes where a form has room for so many.
import { createFormWriter, findForm, toRecords } from '@basileus/core/forms';
import type { Operation } from '@basileus/core/rulebook';
import type { Db } from '../database';
import { loadCorrespondences, type Market } from '../markets';
import { createByteCounter } from './encode';
import { loadPlannedRows, type PlannedId } from './plan';
import { splitByBytes, splitByFamily, splitForForm } from './split';

/** Rows that are measured at a time. */
const batch = 500;

/** The files that rows of an operation go in: each no more records, and no more bytes, than its form takes. */
export async function divide(
  tx: Db,
  market: Market,
  operation: Operation,
  ids: readonly PlannedId[],
): Promise<readonly PlannedId[][]> {
  const form = findForm(market.rulebook, operation)!;
  const parts = splitForForm(market, form, ids);
  if (form.maxBytes === undefined) return parts;
  const writer = createFormWriter(market.rulebook, form);
  const count = createByteCounter(form.container);
  const c = await loadCorrespondences(tx, market.id);
  const sizes = new Map<number, number>();
  for (const some of splitByFamily(ids, batch)) {
    const planned = await loadPlannedRows(
      tx,
      market,
      operation,
      c,
      some.map((x) => x.id),
    );
    const byFeed = new Map(planned.map((p) => [p.feed, p.full.listing_id]));
    for (const record of toRecords(
      market.rulebook,
      form,
      planned.map((p) => p.feed),
    )) {
      const id = byFeed.get(record.rows[0]!)!;
      sizes.set(id, (sizes.get(id) ?? 0) + count(writer.records([record])) + betweenRecords);
    }
  }
  const around = byteOrderMark + count(writer.header() + writer.footer());
  return parts.flatMap((part) => splitByBytes(part, sizes, form.maxBytes! - around, form.record === 'family'));
}
/** What may stand between two records that neither has by itself: a comma and a line end. */
const betweenRecords = 3;
const byteOrderMark = 3;
