// Which forms an operation has, and which of them an item of a category goes in.
import type { Form, OperationTerms } from './schema-forms';
import type { RulebookDocument } from './schema';
import type { Operation } from './terms';

export type FormTerms = Extract<OperationTerms, { form: unknown }>;
type Forms = Pick<RulebookDocument, 'operations' | 'forms' | 'tree'>;

/** The keys of the forms that terms name. */
export const listFormKeys = ({ form }: FormTerms): readonly string[] => (typeof form === 'string' ? [form] : form);

/** How a market does an operation, by forms of its own or as another operation; undefined where it does not. */
export function findOperation(
  { operations }: Pick<Forms, 'operations'>,
  operation: Operation,
): (FormTerms & { done: Operation }) | undefined {
  const terms = operations[operation];
  if (terms === undefined) return undefined;
  if (!('as' in terms)) return { ...terms, done: operation };
  const other = operations[terms.as];
  return other && !('as' in other) ? { ...other, done: terms.as } : undefined;
}

/** The forms of an operation, in the order in which they are named; none where the market takes no file for it. */
export function listForms(book: Pick<Forms, 'operations' | 'forms'>, operation: Operation): Form[] {
  const terms = findOperation(book, operation);
  return (terms ? listFormKeys(terms) : []).flatMap((key) => book.forms.find((f) => f.key === key) ?? []);
}

/**
 * The form for an operation, or undefined where the market takes no file for it. Where there are several, by category, it is
 * the first: what a record of it is, and what a blank does, is the same in all.
 */
export const findForm = (book: Pick<Forms, 'operations' | 'forms'>, operation: Operation): Form | undefined =>
  listForms(book, operation)[0];

/**
 * The form that an item of a category goes in; undefined where none takes it. The form that names the category, or the
 * nearest node above it, goes before one that names none.
 */
export function createFormChoice(book: Forms, operation: Operation): (category: string) => Form | undefined {
  const forms = listForms(book, operation);
  const rest = forms.find((f) => f.for === undefined);
  if (forms.length < 2 && rest) return () => rest;
  const named = new Map(forms.flatMap((f) => (f.for ?? []).map((node) => [node, f] as const)));
  const parents = new Map(book.tree.map((n) => [n.key, n.parent]));
  const known = new Map<string, Form | undefined>();
  const find = (category: string): Form | undefined => {
    for (let at: string | undefined = category; at !== undefined; at = parents.get(at)) {
      const form = named.get(at);
      if (form) return form;
    }
    return rest;
  };
  return (category) => {
    if (!known.has(category)) known.set(category, find(category));
    return known.get(category);
  };
}

/** The leaves whose items go in a form for an operation, by their keys. */
export function listTaken(book: Forms, operation: Operation, form: string): string[] {
  const choose = createFormChoice(book, operation);
  return book.tree.filter((n) => n.takesItems && choose(n.key)?.key === form).map((n) => n.key);
}
