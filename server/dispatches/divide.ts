// Dividing what goes into files: by records, and by bytes where a form has room for so many.
import { createFormChoice, createFormWriter, listForms, toRecords } from '@basileus/core/forms';
import type { Form, Operation } from '@basileus/core/rulebook';
import type { Db } from '../database';
import { loadCorrespondences, type Market } from '../markets';
import { createByteCounter } from './encode';
import type { PlannedId, PlannedPlace } from './plan';
import { loadPlannedRows } from './planned-rows';
import { splitByBytes, splitByFamily, splitForForm } from './split';

/** Rows that are measured at a time. */
const batch = 500;

/** Rows of a file, and the form that it is written in. */
export interface FilePart {
  form: Form;
  ids: readonly PlannedId[];
}

/**
 * The files that rows of an operation go in: by the form that takes the category of each, and each no more records, and no
 * more bytes, than its form takes.
 */
export async function divide(
  tx: Db,
  market: Market,
  operation: Operation,
  ids: readonly PlannedPlace[],
): Promise<FilePart[]> {
  const choose = createFormChoice(market.rulebook, operation);
  const byForm = new Map<Form, PlannedId[]>(listForms(market.rulebook, operation).map((form) => [form, []]));
  for (const id of ids) {
    const form = choose(id.category);
    if (form) byForm.get(form)!.push(id);
  }
  const files: FilePart[] = [];
  for (const [form, own] of byForm)
    for (const part of await divideForm(tx, market, operation, form, own)) files.push({ form, ids: part });
  return files;
}

async function divideForm(
  tx: Db,
  market: Market,
  operation: Operation,
  form: Form,
  ids: readonly PlannedId[],
): Promise<readonly PlannedId[][]> {
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
