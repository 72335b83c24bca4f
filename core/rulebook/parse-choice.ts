import type { RulebookFault } from './fault';
import { createFormChoice, listForms } from './form-choice';
import type { RulebookDocument } from './schema';
import type { Operation } from './terms';

/** Of several forms each item goes in one: no two name the same category, every leaf has one, and all are of one kind. */
export function* checkChoice(book: RulebookDocument, operation: Operation, path: string): Generator<RulebookFault> {
  const forms = listForms(book, operation);
  const rest = forms.filter((f) => f.for === undefined);
  const named = forms.flatMap((f) => (f.for ?? []).map((node) => ({ node, form: f.key })));
  const twin = named.find(({ node }, i) => named.findIndex((n) => n.node === node) < i);
  if (rest.length > 1)
    yield {
      path: `${path}.form`,
      reason: `"${rest[0]!.key}" and "${rest[1]!.key}" both take all categories; say for which one of them is.`,
    };
  if (twin) yield { path: `${path}.form`, reason: `Two forms are for "${twin.node}".` };
  const first = forms[0]!;
  const other = forms.find((f) => f.record !== first.record || f.blank !== first.blank);
  if (other)
    yield {
      path: `${path}.form`,
      reason: `"${first.key}" and "${other.key}" are of two kinds; a record and a blank are the same in all forms of an operation.`,
    };
  const choose = createFormChoice(book, operation);
  const left = book.tree.find((n) => n.takesItems && choose(n.key) === undefined);
  if (left) yield { path: `${path}.form`, reason: `No form takes items of "${left.key}".` };
}
