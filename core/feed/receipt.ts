// Reading a market's answer line by line, as its rulebook describes it. Garbage is named, never half believed.
import type { Rulebook } from '../rulebook/schema';
import { readRows } from '../sheet/delimited';
import { delimiterSigns } from './layout';

export type Verdict = 'accepted' | 'remarked' | 'refused';
export interface ReceiptLine {
  line: number;
  sku: string;
  verdict: Verdict;
  code: string;
  field: string;
  number: string;
  says: string;
  remedy: string;
}
export type ReceiptReading = { ok: true; lines: ReceiptLine[] } | { ok: false; reason: string };

/** Lines of a receipt. Refused as a whole where its header is not the one agreed or a line cannot be placed. */
export function readReceipt(book: Rulebook, text: string): ReceiptReading {
  const spec = book.receipt;
  const [header, ...rows] = readRows(text.replace(/^\ufeff/, ''), delimiterSigns[spec.delimiter]);
  if (!header) return { ok: false, reason: 'The receipt is empty.' };
  const at = Object.fromEntries(
    Object.entries(spec.columns).map(([role, name]) => [role, header.indexOf(name)]),
  ) as Record<keyof typeof spec.columns, number>;
  const lacking = Object.entries(at)
    .filter(([, i]) => i < 0)
    .map(([role]) => spec.columns[role as keyof typeof spec.columns]);
  if (lacking.length)
    return {
      ok: false,
      reason: `The receipt lacks the columns ${lacking.join(', ')}; it is not the form that was agreed.`,
    };
  const verdicts = new Map<string, Verdict>([
    [spec.verdicts.accepted, 'accepted'],
    [spec.verdicts.remarked, 'remarked'],
    [spec.verdicts.refused, 'refused'],
  ]);
  const lines: ReceiptLine[] = [];
  for (const [i, row] of rows.entries()) {
    const cell = (role: keyof typeof at) => (row[at[role]] ?? '').trim();
    const verdict = verdicts.get(cell('verdict')),
      line = Number(cell('line'));
    if (!verdict || !Number.isInteger(line) || line < 1)
      return { ok: false, reason: `Line ${i + 2} of the receipt cannot be read: “${row.join(' | ').slice(0, 80)}”.` };
    const code = spec.codes[cell('code')];
    lines.push({
      line,
      sku: cell('sku'),
      verdict,
      code: cell('code'),
      field: cell('field'),
      number: cell('number'),
      says:
        code?.says ??
        (cell('code') ? `The market answered with the code ${cell('code')}, which its rulebook does not list.` : ''),
      remedy: code?.remedy ?? '',
    });
  }
  return { ok: true, lines };
}
