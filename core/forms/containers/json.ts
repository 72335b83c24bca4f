// Records as JSON: one a line (json-lines), or in a list of one document (json). A slot is a path. Numbers are written from
// their exact text, so that 44.50 stays 44.50. Source: RFC 8259; null for what is emptied on purpose as in RFC 7396.
import type { Container, Form } from '../../rulebook/schema';
import type { Cell, Make, RecordsReading, RecordWriter } from './cell';
import { parsePath, type Step } from './path';

type Slot = Form['slots'][number];
type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };

/** A number as JSON takes it (RFC 8259, 6), in the digits that it has. */
const jsonNumber = /^-?(0|[1-9]\d*)(\.\d+)?$/;

/**
 * What may stand in a text of JSON as something else, but for quotation marks: backslashes, controls (RFC 8259, 7), halves of a
 * pair. A record is asked for them once, as a whole; looking into each text of it took as long as all the rest.
 */
// eslint-disable-next-line no-control-regex
const odd = /[\0-\x1f\\\ud800-\udfff]/;
/** A text as it is, where nothing in it is odd. Quotation marks make it so: what is put before them is. */
const quoteAsItIs = (text: string): string => (text.includes('"') ? JSON.stringify(text) : `"${text}"`);
const quoteWithCare = (text: string): string => JSON.stringify(text);
type Quote = typeof quoteAsItIs;

/** One text of a slot. What is no number arrives as it is, for the market to say so. */
const makeScalars = (quote: Quote): Readonly<Record<NonNullable<Slot['as']>, (text: string) => string>> => ({
  text: quote,
  number: (text) => (jsonNumber.test(text) ? text : quote(text)),
  'true-false': (text) => (text === 'true' || text === 'false' ? text : quote(text)),
});

interface Branch {
  /** `"name":` ready to write, and the same behind another. */
  head: string;
  next: string;
  /** The same with the quotation mark before a text, where it may stand as it is; '' where not. */
  open: string;
  nextOpen: string;
  slot: number | undefined;
  scalar: (text: string) => string;
  children: Branch[];
}

function growBranches(slots: readonly Slot[], quote: Quote): Branch[] {
  const root: Branch[] = [],
    scalars = makeScalars(quote);
  for (const [i, { key, as }] of slots.entries()) {
    let level = root;
    const steps = parsePath(key);
    for (const [k, { name }] of steps.entries()) {
      const head = `${JSON.stringify(name)}:`;
      let branch = level.find((b) => b.head === head && b.slot === undefined);
      if (!branch || k === steps.length - 1) {
        const slot = k === steps.length - 1 ? i : undefined;
        const open = quote === quoteAsItIs && (as ?? 'text') === 'text' ? `${head}"` : '';
        branch = {
          head,
          next: `,${head}`,
          open,
          nextOpen: `,${open}`,
          slot,
          scalar: scalars[as ?? 'text'],
          children: [],
        };
        level.push(branch);
      }
      level = branch.children;
    }
  }
  return root;
}

function writeCell(cell: Cell, scalar: (text: string) => string): string {
  if (typeof cell === 'string') return cell === '' ? '' : scalar(cell);
  if (cell === null) return 'null';
  if (cell.length === 0) return '';
  let text = `[${scalar(cell[0]!)}`;
  for (let i = 1; i < cell.length; i++) text += `,${scalar(cell[i]!)}`;
  return `${text}]`;
}

/** What is said under some names; '' where nothing is. */
function writeBranches(level: readonly Branch[], cellAt: (slot: number) => Cell): string {
  let text = '';
  for (const { head, next, open, nextOpen, slot, scalar, children } of level) {
    let inner: string;
    if (slot === undefined) inner = writeBranches(children, cellAt);
    else {
      const cell = cellAt(slot);
      if (cell === '') continue;
      // Most are texts; each piece less that one is put together of counts.
      if (open !== '' && typeof cell === 'string' && !cell.includes('"')) {
        text = (text === '' ? open : text + nextOpen) + cell + '"';
        continue;
      }
      inner = writeCell(cell, scalar);
    }
    if (inner !== '') text = text === '' ? head + inner : text + next + inner;
  }
  return text === '' ? '' : `{${text}}`;
}

/** Writer of one record a line. */
export function createJsonLinesWriter({ slots }: Pick<Form, 'slots'>): RecordWriter {
  const plain = growBranches(slots, quoteAsItIs),
    careful = growBranches(slots, quoteWithCare);
  return {
    header: () => '',
    record: (cellAt) => {
      const text = writeBranches(plain, cellAt);
      return `${(odd.test(text) ? writeBranches(careful, cellAt) : text) || '{}'}\n`;
    },
    footer: () => '',
  };
}

/** A value of JSON as text; undefined where it is none, or a number of more digits than were read. */
function toText(value: Json | undefined): string | undefined {
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return String(value);
  if (typeof value !== 'number') return undefined;
  const text = String(value);
  if ((value | 0) === value) return text;
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
  if (from + 1 === steps.length && there.every((entry) => typeof entry === 'string')) return there as readonly string[];
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
  columns: { at: number; rest: readonly Step[] }[];
  further: Level;
}
interface Level {
  forks: Map<string, Fork>;
  /** The names of the object before, in their order, which mostly is that of the next one too. */
  steps: { name: string; fork: Fork | undefined }[];
}
/** So many names of an object are expected where the one before had them; an object may have any number. */
const mostSteps = 64;

function growLevel(columns: readonly string[]): Level {
  const root: Level = { forks: new Map(), steps: [] };
  for (const [at, column] of columns.entries()) {
    let level = root;
    const steps = parsePath(column);
    for (const [k, { name, isMany }] of steps.entries()) {
      let fork = level.forks.get(name);
      if (!fork) level.forks.set(name, (fork = { columns: [], further: { forks: new Map(), steps: [] } }));
      if (isMany || k === steps.length - 1) {
        fork.columns.push({ at, rest: isMany ? [{ name, isMany }, ...steps.slice(k + 1)] : [] });
        break;
      }
      level = fork.further;
    }
  }
  return root;
}

/** Goes by what the object says, which is less than what may be asked of it. */
function takeCells(group: { readonly [name: string]: Json }, { forks, steps }: Level, cells: Cell[]): void {
  let i = 0;
  for (const name in group) {
    let step = steps[i];
    if (step?.name !== name) {
      step = { name, fork: forks.get(name) };
      if (i < mostSteps) steps[i] = step;
    }
    i++;
    if (step.fork === undefined) continue;
    const { columns, further } = step.fork,
      there = group[name];
    for (const { at, rest } of columns) {
      if (typeof there === 'string' && rest.length === 0) {
        cells[at] = there;
        continue;
      }
      const cell = rest.length > 0 ? readAt(group, rest) : readAt(there, rest);
      if (cell === null || cell.length > 0) cells[at] = cell;
    }
    if (further.forks.size > 0 && isGroup(there)) takeCells(there, further, cells);
  }
}

/** What a record says at the columns; the list is that of the next record too. */
function prepareReading(columns: readonly string[]): (record: Json) => readonly Cell[] {
  const root = growLevel(columns),
    cells = columns.map((): Cell => '');
  return (record) => {
    cells.fill('');
    if (isGroup(record)) takeCells(record, root, cells);
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
    // Few lines begin with a space, and fewer are empty.
    if (!(line.charCodeAt(0) > 32) && line.trim() === '') continue;
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
