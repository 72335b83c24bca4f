// languages/sentences.json is every sentence that the interface can say, made from the code:
// `npx vitest run --project unit web/src/words/sentences.test.ts -u`.
import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { allChecks } from '@basileus/core/checks';
import { formulaFunctions } from '@basileus/core/formula';
import { keyOf } from '@basileus/core/text';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const root = resolve(import.meta.dirname, '../../..');

/** The sentences of one file: templates behind `say`, `tell` and `term`, and the two forms of words beside numbers. */
function listSentences(path: string, code: string, pairs = new Set<string>()): string[] {
  const source = ts.createSourceFile(path, code, ts.ScriptTarget.Latest, true);
  const found: string[] = [];
  const walk = (n: ts.Node): void => {
    if (ts.isTaggedTemplateExpression(n) && /^(say|tell|term)$/.test(n.tag.getText(source))) {
      const t = n.template;
      found.push(
        keyOf(
          ts.isTemplateExpression(t) ? [t.head.text, ...t.templateSpans.map((s) => s.literal.text)] : [t.text],
        ).trim(),
      );
    }
    if (ts.isCallExpression(n) && /^(plural|wordFor|forms)$/.test(n.expression.getText(source))) {
      const words = n.arguments.slice(-2);
      if (words.every(ts.isStringLiteralLike)) {
        const key = words.map((w) => w.text).join('|');
        found.push(key);
        pairs.add(key);
      }
    }
    ts.forEachChild(n, walk);
  };
  walk(source);
  return found;
}

const rooms = ['core', 'contract', 'server', 'web/src'];
const files = rooms.flatMap((room) =>
  readdirSync(join(root, room), { recursive: true, encoding: 'utf8' })
    .filter(
      (f) => /\.tsx?$/.test(f) && !f.endsWith('.d.ts') && !/\.test\.tsx?$|(^|\/)(node_modules|dist|tests)\//.test(f),
    )
    .map((f) => join(room, f)),
);
const pairs = new Set<string>();
const inCode = files.flatMap((f) => listSentences(f, readFileSync(join(root, f), 'utf8'), pairs));
const says = [
  ...new Set([...inCode, ...formulaFunctions.map((f) => f.about), ...allChecks.map((c) => c.docs.why), 'or', 'and']),
]
  .filter((s) => /\p{L}/u.test(s))
  .sort();
/** The two forms of a word are given as a language gives its own, which may be up to six (CLDR plural rules). */
function exampleOf(key: string): string | { one: string; other: string } {
  const [one, other] = key.split('|');
  return pairs.has(key) && one !== undefined && other !== undefined ? { one, other } : key;
}
const findings = Object.fromEntries(
  allChecks.flatMap((c) =>
    Object.entries(c.messages).map(([name, { says, title, why }]) => [
      `${c.id}/${name}`,
      { says, title, ...(why ? { why } : {}) },
    ]),
  ),
);

describe('every sentence of the interface', () => {
  it('stands in the list that translators start from', async () => {
    const list = {
      language: 'en',
      name: 'English',
      says: Object.fromEntries(says.map((s) => [s, exampleOf(s)])),
      findings,
    };
    await expect(`${JSON.stringify(list, null, 2)}\n`).toMatchFileSnapshot(join(root, 'languages/sentences.json'));
  });
  it('is read from the code with its facts and its forms', () => {
    expect(
      listSentences('a.tsx', 'const a = say`${n} of ${m} written`; b(<p>{tell`Go ${(<b>home</b>)}.`}</p>)'),
    ).toEqual(['{1} of {2} written', 'Go {1}.']);
    expect(listSentences('a.ts', "plural(n, 'row', 'rows'); const t = { a: term`up` }; say(`no tag`)")).toEqual([
      'row|rows',
      'up',
    ]);
  });
});
