// Reading a market's answer back: every line judged, every listing brought to its new state, in one transaction.
import { type AnswerLine, readAnswer } from '@basileus/core/answers';
import { listColumns } from '@basileus/core/forms';
import type { Form } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf, type Write } from '../database';
import { storeFile } from '../files';
import { AppError } from '../http';
import type { Market } from '../markets';
import { type DispatchRow, formOf } from './queries';
import { type LineAnswer, settleLines } from './settle';
import { say } from '@basileus/core/text';

/** A line that the market left without an answer. */
export const lostLine = (says: string): LineAnswer => ({
  verdict: 'lost',
  number: '',
  faults: [{ code: '', field: '', says, remedy: '' }],
});

/**
 * Applies a receipt. Answered already, or given up: does nothing. Garbage, and one that speaks of none of the rows: a
 * refusal that changes nothing. `byHand` says that a person gave it.
 */
export async function receiveReceipt(
  write: Write,
  market: Market,
  dispatch: DispatchRow,
  text: string,
  byHand = false,
): Promise<void> {
  const disbelieve = (says: string, remedy: string): never => {
    throw new AppError(byHand ? 'unreadable-file' : 'market-unreachable', says, {
      remedy: byHand ? remedy : say`It is fetched again by itself.`,
      field: byHand ? 'file' : null,
    });
  };
  const form = formOf(market, dispatch);
  const reading = readAnswer(market.rulebook, form?.key ?? '', text);
  if (!reading.ok)
    return disbelieve(
      byHand
        ? `This is no receipt of ${market.name}: ${reading.reason}`
        : `${market.name} answered with a receipt that cannot be read: ${reading.reason}`,
      'Fetch the receipt of this dispatch from the market, and give that.',
    );
  await write(async (tx) => {
    const open = await rowOf<{ id: number }>(
      tx,
      `select id from dispatches where id = ? and state not in ('answered', 'stopped', 'abandoned') for update`,
      [dispatch.id],
    );
    if (!open) return;
    const sent = await loadSent(tx, dispatch.id);
    const isFamily = form?.record === 'family';
    // A line that names no SKU is placed by its number alone.
    const strange = reading.lines.find(({ line, sku }) => {
      const record = sent.get(line);
      return record === undefined || (sku !== '' && sku !== (isFamily ? record.entry : record.rows[0]!.sku));
    });
    if (strange)
      disbelieve(
        `Line ${strange.line} of the receipt speaks of ${strange.sku.slice(0, 60) || 'a row'}, which is not what was sent there; the receipt is not believed.`,
        'Ask the market for the receipt of this dispatch.',
      );
    if (reading.lines.length === 0 && sent.size > 0 && reading.unnamed === 'lost')
      disbelieve(
        `The receipt speaks of none of the ${sent.size} rows that were sent; it is not believed.`,
        'Look whether it is the receipt of another dispatch, or whether it is still being written.',
      );
    const { file: named, records } = reading.of;
    if ((named !== undefined && named !== dispatch.file_name) || (records !== undefined && records !== sent.size))
      disbelieve(
        `The receipt speaks of ${named === undefined ? 'a file' : named.slice(0, 80)}${records === undefined ? '' : ` with ${records} rows`}, which is not the one that was sent; it is not believed.`,
        'Ask the market for the receipt of this dispatch.',
      );
    const answers = new Map(reading.lines.map((l) => [l.line, l]));
    const places = listPlaces(form);
    await settleLines(tx, market, dispatch, ({ line, record, site }) => {
      const a = answers.get(record);
      if (a) return toLineAnswer(a, site, places, isFamily ? { line, rows: sent.get(record)!.rows } : undefined);
      return reading.unnamed === 'accepted'
        ? { verdict: 'accepted', number: '', faults: [] }
        : lostLine('The receipt does not speak of this line.');
    });
    const file = await storeFile(
      tx,
      `receipt-${dispatch.id}.txt`,
      (async function* () {
        yield Buffer.from(text, 'utf8');
      })(),
    );
    await tx.raw(`update dispatches set fault = null, receipt_file_id = ? where id = ?`, [file.id, dispatch.id]);
  });
}

/** A row of a record that was sent. */
interface SentRow {
  line: number;
  sku: string;
  isParent: boolean;
}

/** The rows of each record that was sent, and what names its entry: the SKU of a family, or of an item by itself. */
async function loadSent(db: Db, dispatchId: number): Promise<ReadonlyMap<number, { entry: string; rows: SentRow[] }>> {
  const lines = await rowsOf<SentRow & { record: number; entry: string }>(
    db,
    `select d.line, d.record, d.sku, coalesce(f.sku, d.sku) as entry, p.kind = 'family' as "isParent"
      from dispatch_lines d
      join listings l on l.id = d.listing_id
      join products p on p.id = l.product_id
      left join products f on f.id = p.parent_id
      where d.dispatch_id = ?
      order by d.line`,
    [dispatchId],
  );
  const records = new Map<number, { entry: string; rows: SentRow[] }>();
  for (const { record, entry, ...row } of lines)
    (records.get(record) ?? records.set(record, { entry, rows: [] }).get(record)!).rows.push(row);
  return records;
}

/** A slot without the places of a list: `points[]` and `points[2]` are both the points. */
const toPlainSlot = (slot: string): string => slot.replace(/\[\d*\]/g, '');

/** Where a column of a form stands: the field of ours, and the place of a variant within a record of its family. */
interface Place {
  field: string;
  member?: number | undefined;
}

/** Fields of ours by the columns that hold them: an answer names columns. */
const listPlaces = (form: Form | undefined): ReadonlyMap<string, Place> =>
  new Map(
    (form ? listColumns(form) : []).flatMap(({ key, holds, member }): [string, Place][] => {
      const field =
        'attribute' in holds
          ? holds.attribute
          : holds.what === 'sku' || holds.what === 'category'
            ? holds.what
            : holds.what === 'family-key'
              ? 'sku'
              : undefined;
      return field === undefined ? [] : [[toPlainSlot(key), { field, member }]];
    }),
  );

/**
 * The answer to a line, its faults with fields of ours. An attribute of the record's site is that of the line's. Of a record
 * of a family each row gets what is said of it, and the first what is said of all.
 */
function toLineAnswer(
  a: AnswerLine,
  site: string,
  places: ReadonlyMap<string, Place>,
  family: { line: number; rows: readonly SentRow[] } | undefined,
): LineAnswer {
  const placed = a.faults.map((fault) => ({ fault, place: places.get(toPlainSlot(fault.field)) }));
  const own = family ? placed.filter(({ place }) => findRow(family.rows, place?.member).line === family.line) : placed;
  const faults = own.map(({ fault, place }) => {
    const key = place?.field ?? '';
    return { ...fault, field: key.endsWith('@') ? key + site : key };
  });
  if (faults.length > 0 || placed.length === 0) return { verdict: a.verdict, number: a.number, faults };
  // It has no fault of its own, and goes again with its family when the other has been mended.
  return a.verdict === 'refused'
    ? { verdict: 'refused', number: a.number, faults: [withFamily], isWithFamily: true }
    : { verdict: 'accepted', number: a.number, faults: [] };
}

const withFamily = {
  code: '',
  field: '',
  says: 'The family goes as one; what the market minds stands at another row of it.',
  remedy: 'Mend that row, and the whole family can go again.',
};

/** The row of a record that a column speaks of: a variant by its place; else the family's own, or the first. */
function findRow(rows: readonly SentRow[], member: number | undefined): SentRow {
  const variants = rows.filter((r) => !r.isParent);
  return (member === undefined ? undefined : variants[member - 1]) ?? rows.find((r) => r.isParent) ?? rows[0]!;
}
