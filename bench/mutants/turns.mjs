// The wrong turns that a file of the core can take, and the file with all of them in it, each behind a switch of its own.
import ts from 'typescript';

const swaps = new Map([
  [ts.SyntaxKind.EqualsEqualsEqualsToken, '!=='],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, '==='],
  [ts.SyntaxKind.LessThanToken, '<='],
  [ts.SyntaxKind.LessThanEqualsToken, '<'],
  [ts.SyntaxKind.GreaterThanToken, '>='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '>'],
  [ts.SyntaxKind.AmpersandAmpersandToken, '||'],
  [ts.SyntaxKind.BarBarToken, '&&'],
  [ts.SyntaxKind.PlusToken, '-'],
  [ts.SyntaxKind.MinusToken, '+'],
  [ts.SyntaxKind.AsteriskToken, '/'],
  [ts.SyntaxKind.SlashToken, '*'],
]);

/** True where a number is a name, and cannot be worked out. */
const isName = (node) =>
  (ts.isPropertyAssignment(node.parent) || ts.isMethodDeclaration(node.parent)) && node.parent.name === node;

/**
 * Reads a file: its wrong turns, and its text in which each is taken while `__turn(n)` is true. Numbers begin at `from`.
 * Texts that are put together say the same thing in tests that compare them; those are no turns, numbers are.
 */
export function readTurns(path, text, from) {
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.ES2023, true);
  const turns = [];
  /** What a node becomes: its text with what its parts become; `by` is the wrong turn in the place of it. */
  const put = (node, what, right, wrong) => {
    const n = from + turns.length;
    turns.push({ n, path, line: source.getLineAndCharacterOfPosition(node.getStart(source)).line + 1, what });
    return wrong === undefined ? `{ if (!__turn(${n})) ${right} }` : `(__turn(${n}) ? ${wrong} : ${right})`;
  };
  const raw = (node) => node.getText(source);
  /** The text of a node with its parts written anew. */
  const inside = (node) => {
    let out = '',
      at = node.getStart(source);
    ts.forEachChild(node, (child) => {
      const start = child.getStart(source);
      out += text.slice(at, start) + write(child);
      at = child.getEnd();
    });
    return out + text.slice(at, node.getEnd());
  };
  const turned = (node) => put(node, 'a condition turned', write(node), `!(${raw(node)})`);
  /** A statement with one part, a condition, in its turned form. */
  const withCondition = (node, condition) => {
    let out = '',
      at = node.getStart(source);
    ts.forEachChild(node, (child) => {
      out += text.slice(at, child.getStart(source)) + (child === condition ? turned(child) : write(child));
      at = child.getEnd();
    });
    return out + text.slice(at, node.getEnd());
  };
  function write(node) {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return raw(node);
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return raw(node);
    if (ts.isBinaryExpression(node)) {
      const by = swaps.get(node.operatorToken.kind);
      const isText = [node.left, node.right].some((s) => ts.isStringLiteralLike(s) || ts.isTemplateExpression(s));
      if (by && !(isText && node.operatorToken.kind === ts.SyntaxKind.PlusToken))
        return put(
          node,
          `${raw(node.operatorToken)} to ${by}`,
          `(${inside(node)})`,
          `((${raw(node.left)}) ${by} (${raw(node.right)}))`,
        );
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      return put(node, 'a negation taken away', inside(node), `(${raw(node.operand)})`);
    else if (node.kind === ts.SyntaxKind.TrueKeyword) return put(node, 'true to false', 'true', 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) return put(node, 'false to true', 'false', 'true');
    else if (ts.isNumericLiteral(node) && !isName(node))
      return put(node, `${node.text} and one`, `(${raw(node)})`, `(${raw(node)} + 1)`);
    else if (ts.isIfStatement(node)) return withCondition(node, node.expression);
    else if (ts.isConditionalExpression(node)) return `(${withCondition(node, node.condition)})`;
    else if (
      ts.isExpressionStatement(node) &&
      ts.isCallExpression(node.expression) &&
      node.expression.expression.kind !== ts.SyntaxKind.SuperKeyword
    )
      return put(node, `${raw(node.expression.expression).slice(0, 30)}() left out`, inside(node));
    return inside(node);
  }
  const body = write(source);
  return { turns, text: text.slice(0, source.getStart(source)) + body };
}
