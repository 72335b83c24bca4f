// Writing and reading a market's delimited layouts. Reading is the inverse of writing, which properties prove.
import { detectIdentifierKind, type IdentifierKind } from '../identifiers';
import type { RowRole, Value, Values } from '../listing/values';
import { isFilled, toItems } from '../listing/values';
import { parseMeasure, writeNumber } from '../quantity';
import type { Layout, LayoutColumn, Rulebook, RulebookAttribute } from '../rulebook/schema';
import type { Operation } from '../rulebook/terms';
import { createQuoter, type Delimiter, readRows } from '../sheet/delimited';

/** One row on its way to a market. `cleared` names attributes to be emptied on purpose. */
export interface FeedRow {
  operation: Operation;
  sku: string;
  role: RowRole;
  parentSku: string | undefined;
  axes: readonly string[];
  category: string;
  values: Values;
  cleared: readonly string[];
}

export const delimiterSigns: Readonly<Record<Layout['delimiter'], Delimiter>> = {
  tab: '\t',
  comma: ',',
  semicolon: ';',
  pipe: '|',
};

/** Codes by which a layout tells kinds of identifier apart; held in the rulebook's code list `identifier_kind`. */
export const getKindCodes = (book: Rulebook): ReadonlyMap<IdentifierKind, string> =>
  new Map((book.codeLists['identifier_kind']?.entries ?? []).map((e) => [e.label as IdentifierKind, e.code]));

/** The layout for an operation, or undefined where the market takes no file for it. */
export const findLayout = (book: Rulebook, operation: Operation): Layout | undefined =>
  book.layouts.find((l) => l.operations.includes(operation));

/** True where a market can be asked for an operation: a file takes it, and it does not bring back what is burnt for good. */
export const canAsk = (book: Rulebook, operation: Operation): boolean =>
  findLayout(book, operation) !== undefined && !(operation === 'restore' && book.sku.burntWhenWithdrawn);

const newlines = { crlf: '\r\n', lf: '\n' } as const;

/** A prepared writer: header once, then rows in batches. Text only; the caller encodes. */
export function createFeedWriter(
  book: Rulebook,
  layout: Layout,
): { header: () => string; rows: (rows: readonly FeedRow[]) => string } {
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  const cells = layout.columns.map((c) => prepareColumn(c, layout, book, attributes));
  const delimiter = delimiterSigns[layout.delimiter],
    newline = newlines[layout.lineEnd];
  const quote = createQuoter(delimiter);
  const head = (h: Layout['headerRows'][number]): string =>
    layout.columns.map((c) => quote(h === 'labels' ? c.label : c.key)).join(delimiter) + newline;
  return {
    header: () => layout.headerRows.map(head).join(''),
    rows: (rows) => {
      let text = '';
      for (const row of rows) {
        // Most cells of a row are empty, so a line is put together as it goes and never held as cells.
        for (let i = 0; i < cells.length; i++) {
          const cell = cells[i]!(row);
          if (i > 0) text += delimiter;
          if (cell !== '') text += quote(cell);
        }
        text += newline;
      }
      return text;
    },
  };
}

const isNumeric = (a: RulebookAttribute | undefined): boolean =>
  a?.type === 'decimal' || a?.type === 'money' || a?.type === 'integer';

function prepareColumn(
  c: LayoutColumn,
  layout: Layout,
  book: Rulebook,
  attributes: ReadonlyMap<string, RulebookAttribute>,
): (row: FeedRow) => string {
  const h = c.holds;
  switch (h.what) {
    case 'sku':
      return (r) => r.sku;
    case 'parent-sku':
      return (r) => r.parentSku ?? '';
    case 'row-role':
      return (r) => (r.operation === 'create' || r.operation === 'replace' ? layout.roleCodes[r.role] : '');
    case 'category':
      return (r) => r.category;
    case 'operation':
      return (r) => layout.operationCodes[r.operation] ?? '';
    case 'axes':
      return (r) => (r.role === 'single' ? '' : r.axes.join(layout.listSeparator));
    default:
      return prepareAttributeColumn(h, layout, book, attributes);
  }
}

function prepareAttributeColumn(
  h: Extract<LayoutColumn['holds'], { attribute: string }>,
  layout: Layout,
  book: Rulebook,
  attributes: ReadonlyMap<string, RulebookAttribute>,
): (row: FeedRow) => string {
  const key = h.attribute,
    attribute = attributes.get(key);
  const clear = (r: FeedRow, text: string) =>
    text === '' && r.cleared.length > 0 && r.cleared.includes(key) ? (layout.clearToken ?? '') : text;
  const one = (v: Value | undefined): string => (v === undefined ? '' : typeof v === 'string' ? v : (v[0] ?? ''));
  switch (h.what) {
    case 'identifier-kind': {
      const codes = getKindCodes(book);
      return (r) => {
        const v = one(r.values[key]);
        const kind = v === '' ? undefined : detectIdentifierKind(v);
        return clear(r, kind ? (codes.get(kind) ?? '') : '');
      };
    }
    // Most cells of a row are empty: they are settled before anything is parsed.
    case 'amount':
      return (r) => {
        const v = one(r.values[key]);
        return v === '' ? clear(r, '') : writeNumber(parseMeasure(v)?.amount ?? '', layout.decimalSign);
      };
    case 'unit':
      return (r) => {
        const v = one(r.values[key]);
        return v === '' ? clear(r, '') : (parseMeasure(v)?.unit ?? '');
      };
    case 'item':
      return (r) => {
        const v = r.values[key];
        return v === undefined
          ? clear(r, '')
          : clear(r, (typeof v === 'string' ? toItems(v) : v)[h.position - 1] ?? '');
      };
    case 'value':
      return (r) => {
        const v = r.values[key];
        if (!isFilled(v)) return clear(r, '');
        if (typeof v !== 'string') return v!.join(layout.listSeparator);
        if (attribute?.type === 'yes-no') return v === 'yes' ? layout.yes : v === 'no' ? layout.no : v;
        return isNumeric(attribute) ? writeNumber(v, layout.decimalSign) : v;
      };
  }
}

/** Whole text of a feed; for looks and tests. Long feeds are written in batches with `createFeedWriter`. */
export function writeFeed(book: Rulebook, layout: Layout, rows: readonly FeedRow[]): string {
  const writer = createFeedWriter(book, layout);
  return writer.header() + writer.rows(rows);
}

export type FeedReading = { ok: true; rows: FeedRow[] } | { ok: false; reason: string };

/** Reads a feed in this layout back into rows. */
export function readFeed(book: Rulebook, layout: Layout, text: string, operation: Operation): FeedReading {
  const rows = readRows(text, delimiterSigns[layout.delimiter]);
  const wanted = layout.columns.map((c) => c.key);
  const keysAt = layout.headerRows.indexOf('keys');
  const keys = rows[keysAt] ?? [];
  const missing = keysAt < 0 ? [] : wanted.filter((k) => !keys.includes(k));
  if (missing.length) return { ok: false, reason: `The header lacks ${missing.join(', ')}.` };
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  const codes = new Map(Object.entries(layout.operationCodes).map(([op, code]) => [code, op as Operation]));
  const roles = new Map(Object.entries(layout.roleCodes).map(([role, code]) => [code, role as RowRole]));
  return {
    ok: true,
    rows: rows.slice(layout.headerRows.length).map((cells) => {
      const values: Record<string, Value> = {};
      const cleared: string[] = [];
      let sku = '',
        parentSku: string | undefined,
        category = '',
        axes: string[] = [],
        role: RowRole = 'single',
        op = operation;
      layout.columns.forEach((c, i) => {
        const cell = cells[keysAt < 0 ? i : keys.indexOf(c.key)] ?? '';
        if (cell === '') return;
        const h = c.holds;
        switch (h.what) {
          case 'sku':
            sku = cell;
            return;
          case 'parent-sku':
            parentSku = cell;
            return;
          case 'row-role':
            role = roles.get(cell) ?? 'single';
            return;
          case 'category':
            category = cell;
            return;
          case 'operation':
            op = codes.get(cell) ?? operation;
            return;
          case 'axes':
            axes = cell.split(layout.listSeparator);
            return;
          case 'identifier-kind':
            return;
          default:
            readAttributeCell(h, cell);
        }
      });
      return { operation: op, sku, role, parentSku, axes, category, values, cleared };

      function readAttributeCell(h: Extract<LayoutColumn['holds'], { attribute: string }>, cell: string): void {
        if (cell === layout.clearToken) {
          if (!cleared.includes(h.attribute)) cleared.push(h.attribute);
          return;
        }
        const a = attributes.get(h.attribute)!;
        const number = (t: string) => (layout.decimalSign === ',' ? t.replace(',', '.') : t);
        switch (h.what) {
          case 'amount':
            values[h.attribute] =
              number(cell) + (values[h.attribute] === undefined ? '' : ` ${values[h.attribute] as string}`);
            return;
          case 'unit':
            values[h.attribute] = values[h.attribute] === undefined ? cell : `${values[h.attribute] as string} ${cell}`;
            return;
          case 'item':
            values[h.attribute] = [...toItems(values[h.attribute]), cell];
            return;
          case 'value':
            if (a.type === 'several-of' || a.type === 'repeated-text' || a.type === 'links')
              values[h.attribute] = cell.split(layout.listSeparator);
            else if (a.type === 'yes-no')
              values[h.attribute] = cell === layout.yes ? 'yes' : cell === layout.no ? 'no' : cell;
            else values[h.attribute] = isNumeric(a) ? number(cell) : cell;
            return;
          case 'identifier-kind':
            return;
        }
      }
    }),
  };
}
