// Reading a market's answer back: every line judged, every listing brought to its new state, in one transaction.
import { type AnswerLine, readAnswer } from '@basileus/core/answers';
import { findForm } from '@basileus/core/forms';
import type { Form } from '@basileus/core/rulebook';
import { rowOf, rowsOf, type Write } from '../database';
import { storeFile } from '../files';
import { AppError } from '../http';
import type { Market } from '../markets';
import type { DispatchRow } from './queries';
import { type LineAnswer, settleLines } from './settle';

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
      remedy: byHand ? remedy : 'It is fetched again by itself.',
      field: byHand ? 'file' : null,
    });
  };
  const form = findForm(market.rulebook, dispatch.operation);
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
    const sent = new Map(
      (
        await rowsOf<{ line: number; sku: string }>(tx, 'select line, sku from dispatch_lines where dispatch_id = ?', [
          dispatch.id,
        ])
      ).map((l) => [l.line, l.sku]),
    );
    // A line that names no SKU is placed by its number alone.
    const strange = reading.lines.find((l) => (l.sku === '' ? !sent.has(l.line) : sent.get(l.line) !== l.sku));
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
    const keyBySlot = listKeysBySlot(form);
    await settleLines(tx, market, dispatch, ({ line, site }) => {
      const a = answers.get(line);
      if (a) return toLineAnswer(a, site, keyBySlot);
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

/** A slot without the places of a list: `points[]` and `points[2]` are both the points. */
const toPlainSlot = (slot: string): string => slot.replace(/\[\d*\]/g, '');

/** Attributes by the slot of the form that holds them: an answer names slots. */
const listKeysBySlot = (form: Form | undefined): ReadonlyMap<string, string> =>
  new Map(
    (form?.slots ?? []).flatMap(({ key, holds }) =>
      'attribute' in holds
        ? [[toPlainSlot(key), holds.attribute] as const]
        : holds.what === 'sku'
          ? [[toPlainSlot(key), 'sku'] as const]
          : holds.what === 'category'
            ? [[toPlainSlot(key), 'category'] as const]
            : [],
    ),
  );

/** The answer to a line, its faults with fields of ours. An attribute of the record's site is that of the line's. */
const toLineAnswer = (a: AnswerLine, site: string, keyBySlot: ReadonlyMap<string, string>): LineAnswer => ({
  verdict: a.verdict,
  number: a.number,
  faults: a.faults.map((f) => {
    const key = keyBySlot.get(toPlainSlot(f.field)) ?? '';
    return { ...f, field: key.endsWith('@') ? key + site : key };
  }),
});
