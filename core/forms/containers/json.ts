// Records as JSON: one a line (json-lines), or in a list of one document (json). A slot is a path. Numbers are written from
// their exact text, so that 44.50 stays 44.50. Source: RFC 8259; null for what is emptied on purpose as in RFC 7396.
import type { Container, Form } from '../../rulebook/schema';
import type { Cell, Make, RecordsReading, RecordWriter } from './cell';
import { parsePath, type Step } from './path';

type Slot = Form['slots'][number];
type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };

/** A number as JSON takes it (RFC 8259, 6), in the digits that it has. */
const jsonNumber = /^-?(0|[1-9]\d*)(\.\d+)?$/;

/** Characters that stand in a text of JSON as something else: quotation marks, backslashes, controls (RFC 8259, 7), halves of a pair. */
const escaped = /["\\]|[^ -\ud7ff\ue000-\uffff]/;
const quote = (text: string): string => (escaped.test(text) ? JSON.stringify(text) : `"${text}"`);

/** One text of a slot. What is no number arrives as it is, for the market to say so. */
const scalarWriters: Readonly<Record<NonNullable<Slot['as']>, (text: string) => string>> = {
  text: quote,
  number: (text) => (jsonNumber.test(text) ? text : quote(text)),
  'true-false': (text) => (text === 'true' || text === 'false' ? text : quote(text)),
};

interface Branch {
  /** `"name":` ready to write, and the same behind another. */
  head: string;
  next: string;
  slot: number | undefined;
  scalar: (text: string) => string;
  children: Branch[];
}

function growBranches(slots: readonly Slot[]): Branch[] {
  const root: Branch[] = [];
  for (const [i, { key, as }] of slots.entries()) {
    let level = root;
    const steps = parsePath(key);
    for (const [k, { name }] of steps.entries()) {
      const head = `${JSON.stringify(name)}:`;
      let branch = level.find((b) => b.head === head && b.slot === undefined);
      if (!branch || k === steps.length - 1) {
        const slot = k === steps.length - 1 ? i : undefined;
        branch = { head, next: `,${head}`, slot, scalar: scalarWriters[as ?? 'text'], children: [] };
        level.push(branch);
      }
      level = branch.children;
    }
  }
  return root;
}

const writeCell = (cell: Cell, scalar: (text: string) => string): string =>
  cell === null
    ? 'null'
    : cell.length === 0
      ? ''
      : typeof cell === 'string'
        ? scalar(cell)
        : `[${cell.map(scalar).join(',')}]`;

/** What is said under some names; '' where nothing is. */
function writeBranches(level: readonly Branch[], cellAt: (slot: number) => Cell): string {
  let text = '';
  for (const { head, next, slot, scalar, children } of level) {
    const inner = slot === undefined ? writeBranches(children, cellAt) : writeCell(cellAt(slot), scalar);
    if (inner !== '') text = text === '' ? head + inner : text + next + inner;
  }
  return text === '' ? '' : `{${text}}`;
}

/** Writer of one record a line. */
export function createJsonLinesWriter({ slots }: Pick<Form, 'slots'>): RecordWriter {
  const branches = growBranches(slots);
  return { header: () => '', record: (cellAt) => `${writeBranches(branches, cellAt) || '{}'}\n`, footer: () => '' };
}

/** A value of JSON as text; undefined where it is none, or a number of more digits than were read. */
function toText(value: Json | undefined): string | undefined {
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return String(value);
  if (typeof value !== 'number') return undefined;
  const text = String(value);
  return (Number.isInteger(value) && !Number.isSafeInteger(value)) || text.includes('e') ? undefined : text;
}

const isGroup = (value: Json | undefined): value is { readonly [name: string]: Json } =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What stands at a path: null where it is emptied on purpose, '' where nothing stands there that can be read. */
function readAt(value: Json | undefined, steps: readonly Step[], from = 0): Cell {
  if (from === steps.length) return value === null ? null : (toText(value) ?? '');
  const { name, isMany } = steps[from]!;
  const there = isGroup(value) && Object.hasOwn(value, name) ? value[name] : undefined;
  if (!isMany) return readAt(there, steps, from + 1);
  if (there === null) return null;
  if (!Array.isArray(there)) return '';
  return (there as readonly Json[]).flatMap((entry) => {
    const cell = readAt(entry, steps, from + 1);
    // One for each entry, also where it says nothing: things of one entry stand at the same place.
    return typeof cell === 'string' ? [cell] : (cell ?? ['']);
  });
}

const parseJson = (text: string): Json | undefined => {
  try {
    return JSON.parse(text) as Json;
  } catch {
    return undefined;
  }
};

/** Documents of a text: one, or one a line, as pages that came one after the other are kept. */
function parseDocuments(text: string): Json[] | undefined {
  const whole = parseJson(text);
  if (whole !== undefined) return [whole];
  const lines = text.split('\n').filter((l) => l.trim() !== '');
  const documents = lines.map(parseJson);
  return lines.length > 1 && documents.every((d) => d !== undefined) ? documents : undefined;
}

/** Names on the way to the columns, those that several share once; what goes on from there is read path by path. */
interface Fork {
  name: string;
  /** Names that every object answers to are asked for with more care. */
  isInherited: boolean;
  columns: { at: number; rest: readonly Step[] }[];
  forks: Fork[];
}

function growForks(columns: readonly string[]): Fork[] {
  const root: Fork[] = [];
  for (const [at, column] of columns.entries()) {
    let level = root;
    const steps = parsePath(column);
    for (const [k, { name, isMany }] of steps.entries()) {
      let fork = level.find((f) => f.name === name);
      if (!fork) level.push((fork = { name, isInherited: name in Object.prototype, columns: [], forks: [] }));
      if (isMany || k === steps.length - 1) {
        fork.columns.push({ at, rest: isMany ? [{ name, isMany }, ...steps.slice(k + 1)] : [] });
        break;
      }
      level = fork.forks;
    }
  }
  return root;
}

function takeCells(group: { readonly [name: string]: Json }, forks: readonly Fork[], cells: Cell[]): void {
  for (const { name, isInherited, columns, forks: further } of forks) {
    const there = isInherited && !Object.hasOwn(group, name) ? undefined : group[name];
    if (there === undefined) continue;
    for (const { at, rest } of columns) {
      const cell = rest.length > 0 ? readAt(group, rest) : readAt(there, rest);
      if (cell === null || cell.length > 0) cells[at] = cell;
    }
    if (further.length > 0 && isGroup(there)) takeCells(there, further, cells);
  }
}

/** What a record says at the columns; the list is that of the next record too. */
function prepareReading(columns: readonly string[]): (record: Json) => readonly Cell[] {
  const forks = growForks(columns),
    cells = columns.map((): Cell => '');
  return (record) => {
    cells.fill('');
    if (isGroup(record)) takeCells(record, forks, cells);
    return cells;
  };
}
const nothingBeside = (): undefined => undefined;

/** Records of lines of JSON. */
export function readJsonLines<T>(columns: readonly string[], text: string, make: Make<T>): RecordsReading<T> {
  const read = prepareReading(columns);
  const records: T[] = [];
  // One line at a time: all lines of a long file beside their records would be held twice.
  for (let at = text.startsWith('\ufeff') ? 1 : 0, n = 1; at < text.length; n++) {
    const found = text.indexOf('\n', at),
      end = found < 0 ? text.length : found;
    const line = text.slice(at, end);
    at = end + 1;
    if (line.trim() === '') continue;
    const record = parseJson(line);
    if (!isGroup(record))
      return {
        ok: false,
        reason: `Line ${n} is “${line.replace(/\r$/, '').slice(0, 60)}”, which is no object of JSON.`,
      };
    records.push(make(read(record)));
  }
  return { ok: true, before: [], records, over: 0, beside: nothingBeside };
}

type JsonDocument = Extract<Container, { kind: 'json' }>;

/** Records of a list in a document of JSON, or of several that came as pages. */
export function readJson<T>(
  { records: at }: JsonDocument,
  columns: readonly string[],
  text: string,
  make: Make<T>,
): RecordsReading<T> {
  const documents = parseDocuments(text.replace(/^\ufeff/, ''));
  if (!documents) return { ok: false, reason: `This is no JSON: “${text.trim().slice(0, 60)}”.` };
  const read = prepareReading(columns);
  const names = parsePath(at);
  const lists = documents.map((d) =>
    names.reduce<Json | undefined>((v, { name }) => (isGroup(v) && Object.hasOwn(v, name) ? v[name] : undefined), d),
  );
  if (!lists.every((l): l is readonly Json[] => Array.isArray(l)))
    return { ok: false, reason: `There is no list at “${at}”.` };
  const records = lists.flat();
  const odd = records.findIndex((r) => !isGroup(r));
  if (odd >= 0) return { ok: false, reason: `Entry ${odd + 1} of “${at}” is no object of JSON.` };
  return {
    ok: true,
    before: [],
    records: records.map((r) => make(read(r))),
    over: 0,
    beside: (path) => {
      const cell = readAt(documents.at(-1), parsePath(path));
      return typeof cell === 'string' && cell !== '' ? cell : undefined;
    },
  };
}

/** What stands at a path of a text of JSON; undefined where it is none or nothing stands there. */
export function readJsonAt(text: string, path: string): string | undefined {
  const cell = readAt(parseJson(text), parsePath(path));
  return typeof cell === 'string' && cell !== '' ? cell : undefined;
}
