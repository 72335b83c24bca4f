// The inbox: files come in under a key and get a ticket; what was worked through has a receipt.
import Papa from 'papaparse';
import type { Market } from './market';
import type { Ticket } from './shelf';
import { workThrough } from './work';

/** A tab-delimited sheet under two header rows, labels and keys; rows by key. */
export function readSheet(body: string): { keys: string[]; rows: Record<string, string>[] } {
  const lines = Papa.parse<string[]>(body.replace(/^\ufeff/, ''), { delimiter: '\t', skipEmptyLines: true }).data;
  const keys = lines[1] ?? [];
  return { keys, rows: lines.slice(2).map((r) => Object.fromEntries(keys.map((k, i) => [k, r[i] ?? '']))) };
}

/** Takes a file under its key: the same key again gives the same ticket. A text is why it is not taken. */
export function takeFile({ options, shelf, moods }: Market, url: URL, key: string, body: string): Ticket | string {
  const known = key ? Object.values(shelf.memory.tickets).find((t) => t.key === key) : undefined;
  if (known) return known;
  const operation = url.searchParams.get('operation') ?? '';
  const { operations, forms } = options.book;
  const form = forms.find((f) => f.key === operations[operation]?.form);
  if (!form) return `Files for “${operation}” are not taken.`;
  const { keys, rows } = readSheet(body);
  const missing = form.slots.filter((c) => !keys.includes(c.key)).map((c) => c.key);
  if (missing.length) return `The second header row lacks ${missing.slice(0, 5).join(', ')}.`;
  const t: Ticket = {
    id: `T${String(shelf.memory.nextTicket++).padStart(6, '0')}`,
    key,
    operation,
    name: url.searchParams.get('name') ?? '',
    rows,
    doneAt: Date.now() + options.workMs + moods.slowMs,
    receipt: undefined,
    fault: undefined,
  };
  shelf.memory.tickets[t.id] = t;
  shelf.save();
  return t;
}

/** Works through the tickets whose time has come; answers how many. */
export function workThroughTickets({ options, shelf, moods }: Market, now: number): number {
  let done = 0;
  for (const t of Object.values(shelf.memory.tickets)) {
    if (t.receipt !== undefined || t.doneAt > now) continue;
    const { reviewMs } = options;
    const answers = workThrough(options.book, shelf, t.operation, t.rows, {
      reviewMs,
      now,
      uncleared: moods.uncleared,
    });
    const lines = [
      ['line', 'house_sku', 'verdict', 'code', 'field', 'entry'],
      ...answers.map((a) => [a.line, a.sku, a.verdict, a.code, a.field, a.number]),
    ];
    t.receipt = `${Papa.unparse(lines, { delimiter: '\t', newline: '\r\n' })}\r\n`;
    t.rows = [];
    done++;
  }
  return done;
}
