// A formula made ready: judged for types before it runs, then a chain of plain functions, nothing interpreted and never
// anything but ours called. Empty is not zero: what is reckoned with nothing is nothing, and leaves a cell as it is.
import type { Value } from '../listing/values';
import type { FieldBook, ProductField } from '../product';
import { Exact, exact, readDate } from '../quantity';
import { findNearest, foldLoosely } from '../text';
import { isSame, order } from './compare';
import { fail, failRow, type FormulaFault, FormulaFailed, type Place, type RowFault, RowFailed } from './fault';
import { formulaFunctions, getFormulaFunction } from './functions';
import type { Argument, FormulaFunction } from './functions';
import { countDays, moveDay } from './functions/day';
import { bound } from './functions/text';
import { type FormulaNode, parseFormula } from './parse';
import { type Piece, piece, wantType } from './piece';
import { type FormulaRow, type FormulaType, readStored, type Run, toFormulaType, type Worked } from './types';

export type FormulaResult = { ok: true; value: Worked } | { ok: false; fault: RowFault };

export interface Formula {
  type: FormulaType;
  /** Keys of the fields that it reads. */
  fields: readonly string[];
  /** Where each of them is named, in the order of the text. */
  named: readonly (Place & { key: string })[];
  /** True where it asks which day it is: what it gives is another tomorrow. */
  readsDay: boolean;
  /** Works it out for one row; what the row cannot give is a fault of that row. */
  run: (row: FormulaRow) => FormulaResult;
}

type Compiled = { ok: true; formula: Formula } | { ok: false; fault: FormulaFault };

interface Naming {
  fields: FieldBook;
  named: (Place & { key: string })[];
  readsDay: boolean;
}

function findField(name: string, fields: FieldBook): ProductField | undefined {
  return fields.findNamed(name) ?? fields.get(name);
}

function compileField(node: FormulaNode & { type: 'Field' }, { fields, named }: Naming): Piece {
  const field = findField(node.name, fields);
  if (!field) {
    const near = findNearest(node.name, fields.all, (f) => [f.label], 1)[0];
    return fail(node, { is: 'unknown-field', name: node.name, near: near?.candidate.label ?? null });
  }
  const { key } = field,
    type = toFormulaType(field.kind),
    isMoment = field.moment !== undefined;
  named.push({ from: node.from, to: node.to, key });
  return {
    type,
    at: node,
    run: ({ values }) => readStored(type, isMoment ? toDay(values[key]) : values[key]),
    words: ({ values }) => {
      const held = values[key];
      return held === undefined ? '' : typeof held === 'string' ? held : held.join(', ');
    },
  };
}

/** The day of a moment, as it is written. */
const toDay = (moment: Value | undefined): Value | undefined =>
  typeof moment === 'string' ? moment.slice(0, 10) : moment;

type Reckon = (a: Exact, b: Exact) => Exact;
const reckonings: Readonly<Record<string, Reckon>> = {
  '+': (a, b) => a.plus(b),
  '-': (a, b) => a.minus(b),
  '*': (a, b) => a.times(b),
  '/': (a, b) => (b.isZero() ? failRow({ kind: 'divided-by-zero' }) : a.dividedBy(b)),
};

function compileReckoning(operator: string, left: Piece, right: Piece, at: Place): Piece {
  const asDay = (p: Piece): Piece =>
    p.literal !== undefined && readDate(p.literal, 'day-first') !== undefined ? wantType(p, operator, 'date') : p;
  const a = asDay(left),
    b = asDay(right);
  const both = (type: FormulaType, work: (x: Worked, y: Worked) => Worked): Piece =>
    piece(type, at, (row) => {
      const x = a.run(row);
      if (x === null) return null;
      const y = b.run(row);
      return y === null ? null : work(x, y);
    });
  if (a.type === 'date' && operator === '-' && b.type === 'date') return both('number', countDays);
  if (a.type === 'date' && (operator === '+' || operator === '-')) {
    wantType(b, operator, 'number');
    return both('date', (d, n) => moveDay(d, operator === '+' ? n : (n as Exact).negated()));
  }
  wantType(a, operator, 'number');
  wantType(b, operator, 'number');
  const reckon = reckonings[operator]!;
  return both('number', (x, y) => reckon(x as Exact, y as Exact));
}

const orders: Readonly<Record<string, (n: number) => boolean>> = {
  '<': (n) => n < 0,
  '<=': (n) => n <= 0,
  '>': (n) => n > 0,
  '>=': (n) => n >= 0,
};

/** Comparing gives yes or no, never nothing: what is empty is neither over nor under anything. */
function compileComparison(operator: string, left: Piece, right: Piece, at: Place): Piece {
  const [a, b] = alignTypes(left, right, operator);
  if (operator === '=') return piece('yes-no', at, (row) => isSame(a.run(row), b.run(row)));
  if (operator === '<>') return piece('yes-no', at, (row) => !isSame(a.run(row), b.run(row)));
  const holds = orders[operator]!;
  return piece('yes-no', at, (row) => {
    const n = order(a.run(row), b.run(row));
    return n !== undefined && holds(n);
  });
}

/** Two pieces as one kind: a day beside a text that is one, texts beside what can be written. Numbers are compared with numbers only. */
function alignTypes(left: Piece, right: Piece, of: string): [Piece, Piece] {
  if (left.type === right.type || left.type === 'nothing' || right.type === 'nothing') return [left, right];
  // Whether a field is empty may be asked of any kind.
  if (left.literal === '' || right.literal === '') return [left, right];
  const yes = (p: Piece): Piece =>
    p.literal !== undefined && /^(yes|no)$/i.test(p.literal)
      ? piece('yes-no', p.at, () => p.literal!.toLowerCase() === 'yes')
      : p;
  if (left.type === 'date') return [left, wantType(right, of, 'date')];
  if (right.type === 'date') return [wantType(left, of, 'date'), right];
  if (left.type === 'measure') return [left, wantType(right, of, 'measure')];
  if (right.type === 'measure') return [wantType(left, of, 'measure'), right];
  if (left.type === 'yes-no') return [left, wantType(yes(right), of, 'yes-no')];
  if (right.type === 'yes-no') return [wantType(yes(left), of, 'yes-no'), right];
  return [wantType(left, of, right.type), wantType(right, of, left.type)];
}

function compilePair(node: FormulaNode & { type: 'Pair' }, naming: Naming): Piece {
  const left = compileNode(node.left, naming),
    right = compileNode(node.right, naming);
  const { operator } = node;
  if (operator === '&') {
    const a = wantWritten(left),
      b = wantWritten(right);
    const join = (row: FormulaRow): string => bound(a(row) + b(row));
    return { type: 'text', at: node, run: (row) => join(row) || null, words: join };
  }
  return operator in reckonings
    ? compileReckoning(operator, left, right, node)
    : compileComparison(operator, left, right, node);
}
function wantWritten(p: Piece): (row: FormulaRow) => string {
  wantType(p, '&', 'text');
  return p.words;
}

function compileCall(node: FormulaNode & { type: 'Call' }, naming: Naming): Piece {
  const known = getFormulaFunction(node.name);
  if (!known) {
    const near = findNearest(node.name, formulaFunctions, (f) => [f.name], 1)[0];
    return fail(
      { from: node.from, to: node.from + node.name.length },
      { is: 'unknown-function', name: node.name, near: near?.candidate.name ?? null },
    );
  }
  naming.readsDay ||= known.readsDay === true;
  const given = node.given.map((g) => compileNode(g, naming));
  const least = known.least ?? known.takes.length,
    most = known.further ? null : known.takes.length;
  if (given.length < least || (most !== null && given.length > most))
    return fail(node, { is: 'arguments', function: known.name, given: given.length, least, most });
  const pieces = given.map((p, i) => takeArgument(p, known.takes[i] ?? known.further!, known));
  const type = typeof known.gives === 'string' ? known.gives : giveType(known, pieces);
  const asText = type === 'text' && typeof known.gives !== 'string';
  return piece(
    type,
    node,
    toRun(known, asText ? pieces.map((p) => (p.type === 'yes-no' ? p : wantType(p, known.name, 'text'))) : pieces),
  );
}

/** The type of a choice; branches that cannot be one are refused, and so is a list beside a text. */
function giveType(known: FormulaFunction, pieces: readonly Piece[]): FormulaType {
  const type = (known.gives as (t: readonly FormulaType[]) => FormulaType)(pieces.map((p) => p.type));
  const branches = known.name === 'if' ? pieces.slice(1) : pieces;
  const odd = branches.find((p) => p.type !== type && (p.type === 'list' || (p.type === 'yes-no' && type === 'text')));
  if (odd && type !== 'nothing')
    return fail(odd.at, { is: 'branches', one: branches.find((p) => p !== odd)!.type, other: odd.type });
  return type;
}

const takeArgument = (p: Piece, { type }: Argument, known: FormulaFunction): Piece =>
  type === 'any' ? p : wantType(p, known.name, type);

function toRun({ choose, work, takesEmpty }: FormulaFunction, pieces: readonly Piece[]): Run {
  if (choose) {
    const runs = pieces.map((p) => p.run);
    return (row) => choose(runs, row);
  }
  const runs = pieces.map((p) => p.run);
  return (row) => {
    const given: Worked[] = [];
    for (const run of runs) {
      const value = run(row);
      if (value === null && !takesEmpty) return null;
      given.push(value);
    }
    return work(given, row);
  };
}

function compileWord(node: FormulaNode & { type: 'Word' }, { fields }: Naming): Piece {
  const word = node.name.toLowerCase();
  if (word === 'yes' || word === 'true') return piece('yes-no', node, () => true);
  if (word === 'no' || word === 'false') return piece('yes-no', node, () => false);
  return fail(node, {
    is: 'unknown-word',
    name: node.name,
    field: fields.all.find((f) => foldLoosely(f.label).startsWith(foldLoosely(node.name)))?.label ?? null,
  });
}

function compileNode(node: FormulaNode, naming: Naming): Piece {
  switch (node.type) {
    case 'Number': {
      const number = exact(node.text);
      return piece('number', node, () => number);
    }
    case 'Text':
      return { ...piece('text', node, () => node.text), literal: node.text };
    case 'Field':
      return compileField(node, naming);
    case 'Word':
      return compileWord(node, naming);
    case 'Call':
      return compileCall(node, naming);
    case 'Percent': {
      const { run } = wantType(compileNode(node.argument, naming), '%', 'number');
      return piece('number', node, (row) => (run(row) as Exact | null)?.dividedBy(100) ?? null);
    }
    case 'Sign': {
      const { run } = wantType(compileNode(node.argument, naming), node.operator, 'number');
      return piece(
        'number',
        node,
        node.operator === '+' ? run : (row) => (run(row) as Exact | null)?.negated() ?? null,
      );
    }
    case 'Pair':
      return compilePair(node, naming);
  }
}

/** Reads and judges a formula over the fields of a house. */
export function compileFormula(text: string, fields: FieldBook): Compiled {
  const naming: Naming = { fields, named: [], readsDay: false };
  try {
    const top = compileNode(parseFormula(text), naming);
    return {
      ok: true,
      formula: {
        type: top.type,
        fields: [...new Set(naming.named.map((n) => n.key))],
        named: naming.named.sort((a, b) => a.from - b.from),
        readsDay: naming.readsDay,
        run: (row) => runRow(top, row),
      },
    };
  } catch (e) {
    if (e instanceof FormulaFailed) return { ok: false, fault: e.fault };
    throw e;
  }
}

/** A formula that is one field and nothing else keeps the text as it is written. */
function runRow(top: Piece, row: FormulaRow): FormulaResult {
  try {
    return { ok: true, value: top.run(row) };
  } catch (e) {
    if (e instanceof RowFailed) return { ok: false, fault: e.fault };
    throw e;
  }
}
