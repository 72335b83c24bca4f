// Rows of a business system as rows of ours: the rules made ready once, then run row by row. Pure.
import { compileFormula, type Formula, type FormulaFault, type RowFault } from '../formula';
import type { FieldBook, FieldKind, ProductField } from '../product';
import { Exact } from '../quantity';
import { foldLoosely, stripForbiddenTags, toPlainText } from '../text';
import type { RulePart, SourceRow, SourceRules } from './source';

/** The columns of a system as a book of fields, for formulas over them. All of them are texts: a number is asked for by value(). */
export function toSourceBook(columns: readonly string[]): FieldBook {
  const all = columns.map((name): ProductField => ({
    key: name,
    label: name,
    kind: 'text',
    fact: true,
    rows: 'all',
    group: 'Columns',
  }));
  const byKey = new Map(all.map((f) => [f.key, f]));
  const byName = new Map(all.map((f) => [foldLoosely(f.label), f]));
  return {
    all,
    byLanguage: new Set(),
    get: (key) => byKey.get(key),
    labelOf: (key) => key,
    isOfSellable: () => false,
    axes: [],
    shared: new Set(),
    findNamed: (heading) => byName.get(foldLoosely(heading)),
  };
}

export type FormedRow =
  /** `values` stand in the order of the rules' fields, as the formulas give them. */
  | { is: 'formed'; sku: string; family: string; values: readonly string[] }
  /** The rules leave it out. */
  | { is: 'left-out' }
  /** It has no SKU by the rules, or a formula cannot be worked out for it. */
  | { is: 'no-sku' }
  | { is: 'fault'; part: RulePart; fault: RowFault };

export interface Former {
  form: (row: SourceRow, today: string) => FormedRow;
  /** A value of one of the rules' fields as our field takes it: without the markup of whoever wrote it. Slow for long texts. */
  tidy: (value: string, field: number) => string;
}
export type FormerMade = { ok: true; former: Former } | { ok: false; part: RulePart; fault: FormulaFault };

/** What was worked out as a cell of a sheet holds it; entries of a list divided by bars. */
function toCell(worked: unknown): string {
  if (worked === null || worked === undefined) return '';
  if (typeof worked === 'boolean') return worked ? 'yes' : 'no';
  if (worked instanceof Exact) return worked.toFixed();
  return Array.isArray(worked) ? worked.join('|') : typeof worked === 'string' ? worked : '';
}

class RowFailed {
  constructor(
    readonly part: RulePart,
    readonly fault: RowFault,
  ) {}
}

/** Markup that a long text of ours keeps; how it looks is the market's. */
const keptTags = ['p', 'br', 'ul', 'ol', 'li', 'b', 'strong', 'i', 'em'];
/** A text of a system as a field of ours takes it: long texts with no more than plain markup, others with none. */
const tidy = (text: string, kind: FieldKind | undefined): string =>
  !text.includes('<')
    ? text
    : kind === 'long-text'
      ? stripForbiddenTags(text, keptTags).trim()
      : kind === 'text'
        ? (toPlainText(text) ?? text).trim()
        : text;

/**
 * Makes rules ready for rows with these columns; what is wrong with them is named with its part and place. `kindOf` says
 * what a field of ours is.
 */
export function prepareSource(
  rules: SourceRules,
  columns: readonly string[],
  kindOf: (field: string) => FieldKind | undefined = () => undefined,
): FormerMade {
  const book = toSourceBook(columns);
  const made = new Map<RulePart, Formula>();
  const parts: [RulePart, string][] = [
    ['sku', rules.sku],
    ['family', rules.family],
    ['only', rules.only],
    ...rules.fields.map((f, i): [number, string] => [i, f.from]),
  ];
  for (const [part, text] of parts) {
    if (text.trim() === '') continue;
    const compiled = compileFormula(text, book);
    if (!compiled.ok) return { ok: false, part, fault: compiled.fault };
    if (part === 'only' && compiled.formula.type !== 'yes-no')
      return {
        ok: false,
        part,
        fault: {
          at: { from: 0, to: text.length },
          problem: { is: 'result', field: 'Which rows come', wanted: ['yes-no'], found: compiled.formula.type },
        },
      };
    made.set(part, compiled.formula);
  }
  const work = (part: RulePart, row: SourceRow, today: string): unknown => {
    const formula = made.get(part);
    if (!formula) return null;
    const result = formula.run({ values: row, today });
    if (!result.ok) throw new RowFailed(part, result.fault);
    return result.value;
  };
  return {
    ok: true,
    former: {
      tidy: (value, field) => tidy(value, kindOf(rules.fields[field]?.field ?? '')),
      form: (given, today) => {
        // What is empty is nothing, as it is in our own fields.
        const row = Object.fromEntries(Object.entries(given).filter(([, text]) => text !== ''));
        try {
          if (made.has('only') && work('only', row, today) !== true) return { is: 'left-out' };
          const sku = toCell(work('sku', row, today)).trim();
          if (sku === '') return { is: 'no-sku' };
          const family = toCell(work('family', row, today)).trim();
          return {
            is: 'formed',
            sku,
            family: family === sku ? '' : family,
            values: rules.fields.map((_, i) => toCell(work(i, row, today))),
          };
        } catch (e) {
          if (e instanceof RowFailed) return { is: 'fault', part: e.part, fault: e.fault };
          throw e;
        }
      },
    },
  };
}

export interface SourceCounts {
  rows: number;
  /** Rows that become an item, are left out by the rules, have no SKU, or a fault. */
  formed: number;
  leftOut: number;
  noSku: number;
  faults: number;
}

/** Several rows that would be one SKU: none of them can come. */
export interface Clash {
  sku: string;
  /** Which rows, counted from 1; at most ten of them are named. */
  rows: number[];
  count: number;
}

const mostNamed = 10;
/** Watches for SKUs that several rows form, over all rows of a source. */
export function createClashJudge() {
  const seen = new Map<string, number[]>(),
    more = new Map<string, number>();
  return {
    note: (sku: string, row: number): void => {
      const rows = seen.get(sku);
      if (!rows) seen.set(sku, [row]);
      else if (rows.length < mostNamed) rows.push(row);
      else more.set(sku, (more.get(sku) ?? 0) + 1);
    },
    /** The clashes, in the order of their first rows. */
    list: (): Clash[] =>
      [...seen]
        .filter(([, rows]) => rows.length > 1)
        .map(([sku, rows]) => ({ sku, rows, count: rows.length + (more.get(sku) ?? 0) })),
    has: (sku: string): boolean => seen.has(sku),
    isClash: (sku: string): boolean => (seen.get(sku)?.length ?? 0) > 1,
  };
}
