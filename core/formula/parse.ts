// From the text of a formula to its tree. jsep reads; the pieces of our language (fields in square brackets, texts in double
// quotes that are doubled inside, percent) are read by a hook of ours, which also notes where each piece stands.
import jsep from 'jsep';
import { fail, FormulaFailed, type Place } from './fault';

export type FormulaNode = Place &
  (
    | { type: 'Number'; text: string }
    | { type: 'Text'; text: string }
    | { type: 'Field'; name: string }
    | { type: 'Word'; name: string }
    | { type: 'Call'; name: string; given: FormulaNode[] }
    | { type: 'Sign'; operator: '-' | '+'; argument: FormulaNode }
    | { type: 'Percent'; argument: FormulaNode }
    | { type: 'Pair'; operator: string; left: FormulaNode; right: FormulaNode }
  );

/** Operators of two sides, the loosest first, as spreadsheets bind them. Source: OpenFormula (OASIS OpenDocument 1.2 part 2), section 5.5. */
const operators: readonly (readonly string[])[] = [['=', '<>', '<', '<=', '>', '>='], ['&'], ['+', '-'], ['*', '/']];

/** The reader of jsep as its hooks see it; its own types say less. */
interface Reader {
  expr: string;
  index: number;
  gobbleIdentifier: () => { name: string };
  gobbleArguments: (end: number) => unknown[];
  gobbleExpression: () => unknown;
  gobbleToken: () => unknown;
  gobbleSpaces: () => void;
}

const closingBracket = ')'.charCodeAt(0);
export const formulaLimits = { characters: 2000, depth: 40 } as const;

/** Reads what stands between two signs, the closing one doubled inside: `"a ""b"" c"`. */
function readQuoted(r: Reader, close: string, what: 'text' | 'field'): string {
  const from = r.index;
  let text = '';
  for (let i = from + 1; i < r.expr.length; i++) {
    const c = r.expr[i]!;
    if (c !== close) text += c;
    else if (r.expr[i + 1] === close) {
      text += c;
      i++;
    } else {
      r.index = i + 1;
      return text;
    }
  }
  return fail({ from, to: r.expr.length }, { is: 'unclosed', what });
}

function readPlainToken(r: Reader): FormulaNode | undefined {
  const from = r.index,
    c = r.expr[from] ?? '';
  const end = (): Place => ({ from, to: r.index });
  if (c === '"') {
    const text = readQuoted(r, '"', 'text');
    return { type: 'Text', text, ...end() };
  }
  if (c === '[') {
    const name = readQuoted(r, ']', 'field').trim();
    return { type: 'Field', name, ...end() };
  }
  const number = /^(\d+(\.\d+)?|\.\d+)(?![\w.])/.exec(r.expr.slice(from, from + formulaLimits.characters));
  if (number) {
    r.index += number[0].length;
    return { type: 'Number', text: number[0].startsWith('.') ? `0${number[0]}` : number[0], ...end() };
  }
  if (c === '-' || c === '+') {
    r.index++;
    const argument = r.gobbleToken() as FormulaNode | false;
    if (!argument) return fail(end(), { is: 'value-missing', after: c });
    return { type: 'Sign', operator: c, argument, ...end() };
  }
  if (c === '(') {
    r.index++;
    const inner = r.gobbleExpression() as FormulaNode | false;
    if (!inner) return fail({ from, to: from + 1 }, { is: 'value-missing', after: '(' });
    if (r.expr[r.index] !== ')')
      return r.index < r.expr.length
        ? fail({ from: r.index, to: r.index + 1 }, { is: 'unexpected', found: r.expr[r.index]! })
        : fail({ from, to: from + 1 }, { is: 'unclosed', what: 'bracket' });
    r.index++;
    return toNode(inner);
  }
  if (/\p{L}/u.test(c)) {
    const { name } = r.gobbleIdentifier();
    r.gobbleSpaces();
    if (r.expr[r.index] !== '(') return { type: 'Word', name, from, to: from + name.length };
    return readCall(r, name, from);
  }
  // jsep would read more than our language has.
  return c === '' || c === ')' || c === ',' ? undefined : fail({ from, to: from + 1 }, { is: 'unexpected', found: c });
}

function readCall(r: Reader, name: string, from: number): FormulaNode {
  r.index++;
  let given: FormulaNode[];
  try {
    given = r.gobbleArguments(closingBracket).map(toNode);
  } catch (e) {
    if (e instanceof FormulaFailed || r.index < r.expr.length) throw e;
    return fail({ from, to: from + name.length + 1 }, { is: 'unclosed', what: 'bracket' });
  }
  // jsep takes what is divided by spaces for several.
  given.forEach((g, i) => {
    const before = given[i - 1];
    if (before && !r.expr.slice(before.to, g.from).includes(','))
      fail({ from: before.to, to: g.to }, { is: 'comma-missing' });
  });
  return { type: 'Call', name, given, from, to: r.index };
}

/** A token with the percent signs behind it. */
function readToken(r: Reader): FormulaNode | undefined {
  let node = readPlainToken(r);
  while (node) {
    r.gobbleSpaces();
    if (r.expr[r.index] !== '%') break;
    r.index++;
    node = { type: 'Percent', argument: node, from: node.from, to: r.index };
  }
  return node;
}

/** What jsep has put together, in our shape. */
function toNode(node: unknown): FormulaNode {
  const n = node as { type: string; operator?: string; left?: unknown; right?: unknown };
  if (n.type !== 'BinaryExpression') return node as FormulaNode;
  const left = toNode(n.left),
    right = toNode(n.right);
  return { type: 'Pair', operator: n.operator!, left, right, from: left.from, to: right.to };
}

// jsep reads choices as languages of programs write them; here they are written with if( ).
delete jsep.hooks['after-expression'];
jsep.removeAllBinaryOps();
jsep.removeAllUnaryOps();
jsep.removeAllLiterals();
operators.forEach((level, i) => {
  for (const o of level) jsep.addBinaryOp(o, i + 1);
});
jsep.addIdentifierChar('_');
jsep.hooks.add('gobble-token', function (this: unknown, env: { context: unknown; node?: unknown }) {
  const token = readToken(env.context as Reader);
  if (token) env.node = token;
} as never);

/** Refuses what is too deep before it is read, so that reading it cannot run out of stack. */
function guardDepth(text: string): void {
  let depth = 0,
    signs = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (c === '(') depth++;
    else if (c === ')') depth--;
    signs = c === '-' || c === '+' ? signs + 1 : /\s/.test(c) ? signs : 0;
    if (depth > formulaLimits.depth || signs > formulaLimits.depth)
      fail({ from: i, to: i + 1 }, { is: 'too-deep', most: formulaLimits.depth });
  }
}

/** The tree of a formula, which may begin with the equals sign of a spreadsheet. Throws `FormulaFailed`. */
export function parseFormula(text: string): FormulaNode {
  const { length } = text;
  if (length > formulaLimits.characters)
    return fail(
      { from: formulaLimits.characters, to: length },
      { is: 'too-long', length, most: formulaLimits.characters },
    );
  const source = text.replace(/^(\s*)=/, '$1 ');
  if (source.trim() === '') return fail({ from: 0, to: length }, { is: 'nothing' });
  guardDepth(source);
  let tree: { type: string; body?: unknown[] };
  try {
    tree = jsep(source) as { type: string; body?: unknown[] };
  } catch (e) {
    if (e instanceof FormulaFailed) throw e;
    return failAt(source, (e as { index?: number }).index ?? length);
  }
  if (tree.type === 'Compound') {
    // Separators alone are no formula, and jsep takes one behind another for several.
    const second = tree.body?.[1] as { from?: number } | undefined;
    const first = tree.body?.[0] === undefined ? undefined : toNode(tree.body[0]);
    return failAt(source, first && second ? source.slice(first.to).search(/\S/) + first.to : source.search(/\S/));
  }
  const node = toNode(tree);
  const rest = source.slice(node.to).search(/[^\s)]/);
  if (rest >= 0) return failAt(source, node.to + rest);
  return node;
}

/** Says what stands where reading could not go on. */
function failAt(source: string, index: number): never {
  const before = source.slice(0, index).trimEnd(),
    found = /\S/.exec(source.slice(index))?.[0];
  // jsep stops behind a comma before which nothing stands.
  const operator = /[(,](?=\s*,$)|(<>|<=|>=|[=<>&+\-*/(,])$/.exec(before);
  if (operator && (found === undefined || found === ')' || found === ',' || before.endsWith(',')))
    return fail(
      { from: operator.index, to: operator.index + operator[0].length },
      { is: 'value-missing', after: operator[0] },
    );
  if (found === undefined) return fail({ from: source.length, to: source.length }, { is: 'value-missing', after: '' });
  const at = source.indexOf(found, index);
  return fail({ from: at, to: at + 1 }, { is: 'unexpected', found });
}
