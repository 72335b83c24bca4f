// What one slot of a form holds: the text of a record for it, and back. Reading is the inverse of writing.
import { detectIdentifierKind } from '../identifiers';
import { isFilled, type RowRole, toItems, type Value } from '../listing/values';
import { convertUnit, parseMeasure, writeNumber } from '../quantity';
import type { Form, Holds, Rulebook, RulebookAttribute, Site, Slot } from '../rulebook/schema';
import { operations, type Operation } from '../rulebook/terms';
import { type Cell, hasColumns, toEntries } from './containers';
import type { FeedRecord } from './record';
import { remember } from './remember';
import { asItIs, prepareValue, readNumberCell } from './written';

/** A record as it is read, slot by slot. */
export interface ReadRecord {
  operation: Operation;
  sku: string;
  role: RowRole;
  parentSku: string | undefined;
  axes: string[];
  category: string;
  values: Record<string, Value>;
  cleared: string[];
  entry?: string;
}
/** The site that a record is read at, as soon as it has said so. */
export interface ReadAt {
  site: Site | undefined;
}
export interface PreparedSlot {
  write: (record: FeedRecord) => Cell;
  /** The value that it is written from, where it is one and the same in every record, and its cell while nothing is cleared. */
  of?: { key: string; write: (value: Value, record: FeedRecord) => Cell };
  /** Takes a filled cell into the record. */
  read: (cell: Cell, record: ReadRecord, at: ReadAt) => void;
}
/** A slot that holds one text. */
interface TextSlot {
  write: (record: FeedRecord) => string;
  read: (cell: string, record: ReadRecord, at: ReadAt) => void;
}

/** Places of an amount that a form writes in a unit of its own: far under what anybody weighs or measures. */
const writtenPlaces = 6;
const isList = (a: RulebookAttribute): boolean =>
  a.type === 'several-of' || a.type === 'repeated-text' || a.type === 'links';

/** The first text of a cell: where one is meant, several are one too many. */
const textOf = (cell: Cell): string => toEntries(cell)[0] ?? '';

/** A slot of a form made ready for many records. */
export function prepareSlot(book: Rulebook, form: Form, { key, holds, as }: Slot): PreparedSlot {
  // Where the container has lists of its own, entries stay apart.
  const hasEntries = !hasColumns(form.container) && key.endsWith('[]');
  if (holds.what === 'axes') return prepareAxes(form, holds.codes ?? {}, hasEntries);
  if ('attribute' in holds) {
    // What JSON has words of its own for is written in those.
    const text = as === 'true-false' ? { ...form.text, yes: 'true', no: 'false' } : form.text;
    return prepareAttribute(book, { ...form, text }, holds, hasEntries);
  }
  const { write, read } = prepareText(book, holds);
  return {
    write,
    read: (cell, record, at) => {
      const text = textOf(cell);
      if (text !== '') read(text, record, at);
    },
  };
}

function prepareText(book: Rulebook, holds: Exclude<Holds, { what: 'axes' } | { attribute: string }>): TextSlot {
  switch (holds.what) {
    case 'sku':
      return { write: (r) => r.row.sku, read: (c, r) => void (r.sku = c) };
    case 'family-key':
      return { write: (r) => r.row.parentSku ?? r.row.sku, read: (c, r) => void (r.sku = c) };
    case 'parent-sku':
      return { write: (r) => r.row.parentSku ?? '', read: (c, r) => void (r.parentSku = c) };
    case 'row-role':
      return prepareRole(holds.codes);
    case 'category':
      return prepareCategory(book);
    case 'entry':
      return { write: (r) => r.row.entry ?? '', read: (c, r) => void (r.entry = c) };
    case 'operation':
      return prepareOperation(book);
    case 'site':
      return prepareSite(book, holds.codes);
    case 'currency':
      return { write: (r) => r.site.currency, read: () => undefined };
  }
}

function prepareRole(codes: Readonly<Record<RowRole, string>>): TextSlot {
  const roles = new Map(Object.entries(codes).map(([role, code]) => [code, role as RowRole]));
  return {
    write: ({ row }) => (row.operation === 'create' || row.operation === 'replace' ? codes[row.role] : ''),
    read: (c, r) => void (r.role = roles.get(c) ?? 'single'),
  };
}

function prepareCategory(book: Rulebook): TextSlot {
  const codes = new Map(book.tree.map((n) => [n.key, n.code ?? n.key]));
  const keys = new Map(book.tree.map((n) => [n.code ?? n.key, n.key]));
  return {
    write: ({ row }) => codes.get(row.category) ?? row.category,
    read: (c, r) => void (r.category = keys.get(c) ?? c),
  };
}

function prepareOperation(book: Rulebook): TextSlot {
  const codeOf = (operation: Operation): string => {
    const terms = book.operations[operation];
    if (terms === undefined) return '';
    const own = 'as' in terms ? book.operations[terms.as] : terms;
    return own && 'code' in own ? (own.code ?? '') : '';
  };
  const codes = new Map(operations.map((o) => [o, codeOf(o)]));
  const byCode = new Map(
    [...codes].filter(([o, c]) => c !== '' && !('as' in book.operations[o]!)).map(([o, c]) => [c, o]),
  );
  return {
    write: ({ row }) => codes.get(row.operation) ?? '',
    read: (c, r) => void (r.operation = byCode.get(c) ?? r.operation),
  };
}

function prepareAxes(form: Form, codes: Readonly<Record<string, string>>, hasEntries: boolean): PreparedSlot {
  const sign = form.text.listSeparator;
  const keys = new Map(Object.entries(codes).map(([key, code]) => [code, key]));
  return {
    write: ({ row }) => {
      if (row.role === 'single') return '';
      const axes = row.axes.map((a) => codes[a] ?? a);
      return hasEntries ? axes : axes.join(sign);
    },
    read: (c, r) =>
      void (r.axes = (typeof c === 'string' ? c.split(sign) : [...toEntries(c)]).map((a) => keys.get(a) ?? a)),
  };
}

function prepareSite(book: Rulebook, codes: Readonly<Record<string, string>>): TextSlot {
  const sites = new Map(book.sites.map((s) => [codes[s.key] ?? s.key, s]));
  return { write: (r) => codes[r.site.key] ?? r.site.key, read: (c, _, at) => void (at.site = sites.get(c)) };
}

type AttributeHolds = Extract<Holds, { attribute: string }>;

function prepareAttribute(book: Rulebook, form: Form, holds: AttributeHolds, hasEntries: boolean): PreparedSlot {
  const own = holds.attribute,
    isOfSite = own.endsWith('@');
  const at = (site: Site | undefined): string => (isOfSite ? own + (site ?? book.sites[0]!).key : own);
  const attribute = book.attributes.find((a) => a.key === at(undefined))!;
  const content = prepareContent(book, form, holds, attribute, hasEntries);
  const clear = form.blank === 'keeps' ? form.clear : undefined;
  const write = ({ row: { values, cleared }, site }: FeedRecord): Cell => {
    const key = at(site),
      value = values[key];
    const cell = isFilled(value) ? content.write(value!, site) : '';
    return cell.length === 0 && clear !== undefined && cleared.length > 0 && cleared.includes(key) ? clear : cell;
  };
  return {
    write,
    ...(isOfSite
      ? {}
      : { of: { key: own, write: (value, { site }) => (isFilled(value) ? content.write(value, site) : '') } }),
    read: (cell, record, { site }) => {
      const key = isOfSite ? at(site) : own;
      if (cell === null || cell === clear) {
        if (!record.cleared.includes(key)) record.cleared.push(key);
        return;
      }
      const value = content.read(cell, content.isAdded === true ? record.values[key] : undefined);
      if (value !== undefined) record.values[key] = value;
    },
  };
}

interface Content {
  write: (value: Value, site: Site) => Exclude<Cell, null>;
  /** True where a cell may be a part of the value, which others have the rest of. */
  isAdded?: true;
  /** The value with what a cell adds to it; undefined where it adds nothing. */
  read: (cell: Exclude<Cell, null>, before: Value | undefined) => Value | undefined;
}
const firstOf = (v: Value): string => (typeof v === 'string' ? v : (v[0] ?? ''));

/** What a slot holds of a filled value. An amount and its unit may stand in two slots, in either order. */
function prepareContent(
  book: Rulebook,
  form: Form,
  holds: AttributeHolds,
  a: RulebookAttribute,
  hasEntries: boolean,
): Content {
  const { decimalSign, listSeparator } = form.text;
  switch (holds.what) {
    case 'identifier-kind':
      return {
        write: (v) => {
          const kind = detectIdentifierKind(firstOf(v));
          return kind === undefined ? '' : (holds.codes[kind] ?? '');
        },
        read: () => undefined,
      };
    case 'amount': {
      const unit = holds.in;
      const write = remember((v) => writeNumber(measureIn(v, unit), decimalSign));
      return {
        write: (v) => write(firstOf(v)),
        isAdded: true,
        read: (c, before) => {
          const other = unit ?? (typeof before === 'string' ? before : undefined);
          return readNumberCell(textOf(c), decimalSign) + (other === undefined ? '' : ` ${other}`);
        },
      };
    }
    case 'unit': {
      const write = remember((v) => parseMeasure(v)?.unit ?? '');
      return {
        write: (v) => write(firstOf(v)),
        isAdded: true,
        read: (c, before) => (before === undefined ? textOf(c) : `${before as string} ${textOf(c)}`),
      };
    }
    case 'item':
      return {
        write: (v) => (typeof v === 'string' ? toItems(v) : v)[holds.position - 1] ?? '',
        isAdded: true,
        read: (c, before) => [...toItems(before), textOf(c)],
      };
    case 'value': {
      const one = prepareValue(book, form.text, a);
      if (one === asItIs && !isList(a))
        return { write: (v) => (typeof v === 'string' ? v : v.join(listSeparator)), read: textOf };
      if (!isList(a))
        return {
          write: (v, site) => one.write(typeof v === 'string' ? v : v.join(listSeparator), site),
          read: (c) => one.read(textOf(c)),
        };
      if (hasEntries) return { write: (v) => toItems(v), read: toEntries };
      return {
        write: (v) => (typeof v === 'string' ? v : v.join(listSeparator)),
        read: (c) => textOf(c).split(listSeparator),
      };
    }
  }
}

/** The amount of a measure, in another unit where one is asked for: exact, or rounded far under what can be measured. */
function measureIn(text: string, unit: string | undefined): string {
  const read = parseMeasure(text);
  if (read === undefined) return '';
  if (unit === undefined || read.unit === undefined || read.unit === unit) return read.amount;
  return (
    convertUnit({ amount: read.amount, unit: read.unit }, unit)?.toDecimalPlaces(writtenPlaces).toFixed() ?? read.amount
  );
}
