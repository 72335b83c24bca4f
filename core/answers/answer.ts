// Reading what a market answers to a file, as its rulebook describes it. Garbage is named, never half believed.
import { listColumns } from '../forms/columns';
import { type Cells, countHeads, readRecords, type RecordsReading, toEntries } from '../forms/containers';
import type { AnswerTerms, Container, Encoding, Rulebook } from '../rulebook/schema';
import { findNamed } from '../text';

export type Verdict = 'accepted' | 'remarked' | 'refused';
export interface AnswerFault {
  code: string;
  /** The field as the market names it: the key of a slot. */
  field: string;
  says: string;
  remedy: string;
}
export interface AnswerLine {
  /** Record of the file, from 1. */
  line: number;
  /** Empty where the answer does not name it. */
  sku: string;
  verdict: Verdict;
  number: string;
  faults: AnswerFault[];
}
export type AnswerReading =
  | {
      ok: true;
      lines: AnswerLine[];
      /** What a record means that no line names. */
      unnamed: AnswerTerms['unnamed'];
      /** The file that it says it answers, and how many records that had, where it says so. */
      of: { file?: string; records?: number };
    }
  | { ok: false; reason: string };

/** The answer that a market gives to files of a form, or undefined where it gives none. */
export const findAnswer = (book: Rulebook, form: string): AnswerTerms | undefined =>
  book.answers.find((a) => a.to?.includes(form) ?? true);

/** Lines of an answer to a file of a form. Refused as a whole where it is not what was agreed or a line cannot be placed. */
export function readAnswer(book: Rulebook, form: string, text: string): AnswerReading {
  const terms = findAnswer(book, form);
  if (!terms) return { ok: false, reason: `The rulebook has no answer to files of the form ${form}.` };
  if (text.trim() === '') return { ok: false, reason: 'The answer is empty.' };
  const { slots } = terms;
  const reading = readAnswerRecords(book, form, terms, text);
  if (!reading.ok) return reading;
  const over = countLinesOver(book, form, terms);
  const byLine = new Map<number, AnswerLine>();
  for (const [i, cells] of reading.records.entries()) {
    const entries = (slot: keyof typeof slots): readonly string[] =>
      slots[slot] === undefined ? [] : toEntries(cells[slots[slot]]).map((c) => c.trim());
    const cell = (slot: keyof typeof slots): string => entries(slot)[0] ?? '';
    const verdict = 'always' in terms.verdict ? terms.verdict.always : terms.verdict.words[cell('verdict')];
    const line = slots.line === undefined ? i + 1 : /^\d+$/.test(cell('line')) ? Number(cell('line')) - over : 0;
    if (!verdict || line < 1)
      return {
        ok: false,
        reason: `Line ${i + reading.over + 1} of the answer cannot be read: “${writeCells(cells)}”.`,
      };
    const faults = listFaults(book, terms, entries);
    const known = byLine.get(line);
    if (known) {
      known.faults.push(...faults);
      known.verdict = worse(known.verdict, verdict);
    } else byLine.set(line, { line, sku: cell('sku'), verdict, number: cell('number'), faults });
  }
  return { ok: true, lines: [...byLine.values()], unnamed: terms.unnamed, of: readProof(terms, reading) };
}

/** Records of an answer, in a container of its own or in that of the file, which comes back with columns added. */
function readAnswerRecords(book: Rulebook, form: string, terms: AnswerTerms, text: string): RecordsReading<Cells> {
  const wanted = Object.values(terms.slots).filter((s) => s !== undefined);
  if (terms.container.kind !== 'as-sent') return readRecords(terms.container, wanted, text);
  const sent = book.forms.find((f) => f.key === form);
  if (!sent) return { ok: false, reason: `There is no form ${form} whose file could come back.` };
  return readRecords(sent.container, [...listColumns(sent).map((c) => c.key), ...terms.container.columns], text);
}

/** How bytes become text: by an encoding, or as a sheet of a workbook. */
export type Decoding = Encoding | { sheet: string };
export const toDecoding = (container: Container): Decoding =>
  container.kind === 'workbook' ? { sheet: container.sheet } : container.encoding;

/** How answers to files of a form become text. */
export function findAnswerDecoding(book: Rulebook, form: string): Decoding {
  const container = findAnswer(book, form)?.container;
  if (container && container.kind !== 'as-sent') return toDecoding(container);
  const sent = book.forms.find((f) => f.key === form)?.container;
  return sent ? toDecoding(sent) : 'utf-8';
}

const writeCells = (cells: Cells): string =>
  Object.values(cells)
    .map((c) => toEntries(c).join(', '))
    .join(' | ')
    .slice(0, 80);

/** What an answer says of its file: the groups `file` and `records` of patterns over the header, or what stands at paths. */
function readProof(
  { container, proof }: AnswerTerms,
  { before, beside }: Extract<RecordsReading<Cells>, { ok: true }>,
): { file?: string; records?: number } {
  const patterns = container.kind === 'delimited' ? container.before : [];
  const found = (name: 'file' | 'records'): string | undefined => {
    const at = proof?.[name];
    if (at !== undefined) return beside(at);
    for (const [i, pattern] of patterns.entries())
      if (pattern.includes(`(?<${name}>`)) return findNamed(pattern, before[i] ?? '', name);
    return undefined;
  };
  const file = found('file'),
    records = found('records');
  return { ...(file === undefined ? {} : { file }), ...(records === undefined ? {} : { records: Number(records) }) };
}

const badness: Readonly<Record<Verdict, number>> = { accepted: 0, remarked: 1, refused: 2 };
const worse = (a: Verdict, b: Verdict): Verdict => (badness[b] > badness[a] ? b : a);

/** What is taken off the number of a line, so that the first record is 1. */
function countLinesOver(book: Rulebook, form: string, { lineCounts }: AnswerTerms): number {
  if (lineCounts === 'records') return 0;
  if (lineCounts === 'records-from-0') return -1;
  const container = book.forms.find((f) => f.key === form)?.container;
  return container ? countHeads(container) : 0;
}

/** What a line finds fault with: one for each code, beside the field at the same place. */
function listFaults(
  book: Rulebook,
  terms: AnswerTerms,
  entries: (slot: keyof AnswerTerms['slots']) => readonly string[],
): AnswerFault[] {
  const split = (texts: readonly string[]): readonly string[] =>
    terms.severalBy === undefined
      ? texts
      : texts
          .flatMap((t) => t.split(terms.severalBy!))
          .map((t) => t.trim())
          .filter((t) => t !== '');
  const { fault } = terms;
  const found = split(entries('code')),
    part = (text: string, name: 'code' | 'field', otherwise: string): string =>
      (fault?.includes(`(?<${name}>`) ? findNamed(fault, text, name) : undefined) ?? otherwise,
    codes = fault === undefined ? found : found.map((f) => part(f, 'code', f)),
    fields = fault === undefined ? split(entries('field')) : found.map((f) => part(f, 'field', '')),
    says = entries('says');
  // A line that says something without a code has one fault.
  return (codes.length > 0 ? codes : [''])
    .map((code, i): AnswerFault => {
      const known = book.codes[code];
      return {
        code,
        field: fields[i] ?? (fields.length === 1 ? fields[0]! : ''),
        says:
          known?.says ||
          (says[i] ?? (says.length === 1 ? says[0]! : '')) ||
          (code ? `The market answered with the code ${code}, which its rulebook does not list.` : ''),
        remedy: known?.remedy ?? '',
      };
    })
    .filter((f) => f.code !== '' || f.field !== '' || f.says !== '');
}
