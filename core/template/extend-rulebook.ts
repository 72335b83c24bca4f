// Another blank template for a market that is there: of a further category, or a newer one of a category that it has.
import type { FieldBook } from '../product';
import type { Holds, RulebookDocument, RulebookDraft } from '../rulebook';
import { listFormKeys, listForms } from '../rulebook/form-choice';
import {
  type CategorySettings,
  countSku,
  type DraftFault,
  draftedForm,
  findDraftFaults,
  frameForm,
} from './draft-rulebook';
import { draftForm, type Limits, toKey } from './draft-form';
import type { TemplateReading } from './understand-template';

/** True where a market's new entries go in workbooks, an item a row: there a template of its own can be for each category. */
export function takesTemplates(book: Pick<RulebookDocument, 'operations' | 'forms'>): boolean {
  const forms = listForms(book, 'create');
  return forms.length > 0 && forms.every((f) => f.container.kind === 'workbook' && f.record === 'listing');
}

/**
 * What was said of columns for other templates of the market: one that is called the same is filled from the same field. By
 * the places of the new template.
 */
export function recallColumns(book: RulebookDocument, { columns }: TemplateReading): Record<number, { field: string }> {
  const fieldOf = (holds: Holds): string | undefined =>
    'attribute' in holds
      ? (book.attributes.find((a) => a.key === holds.attribute.split('@')[0])?.from ?? '')
      : rowFields[holds.what];
  const known = new Map(
    book.forms.flatMap((f) =>
      f.slots.flatMap((s) => (s.label === undefined ? [] : [[s.label, fieldOf(s.holds)] as const])),
    ),
  );
  return Object.fromEntries(
    columns.flatMap(({ index, heading, field }) => {
      const said = known.get(heading);
      return said === undefined || said === (field ?? '') ? [] : [[index, { field: said }]];
    }),
  );
}
const rowFields: Partial<Record<Holds['what'], string>> = {
  sku: 'sku',
  'parent-sku': 'parent_sku',
  category: 'category',
};

/**
 * The document with a template added to it, and the key of the form that it is; or what is missing. A category that is called
 * as one that is there has its template replaced. It is to be read by `parseRulebook`.
 */
export function extendRulebook(
  document: RulebookDocument,
  reading: TemplateReading,
  settings: CategorySettings,
  fields: FieldBook,
  version: string,
): { document: RulebookDraft; form: string } | { faults: DraftFault[] } {
  const faults = findDraftFaults(reading, settings);
  if (faults.length > 0) return { faults };
  const label = settings.category.trim();
  const known = document.tree.find((n) => n.takesItems && n.label.toLowerCase() === label.toLowerCase());
  const book = standByThemselves(document);
  const replaced = known && book.forms.find((f) => f.for?.length === 1 && f.for[0] === known.key);
  const category = known?.key ?? toKey(label, new Set(book.tree.map((n) => n.key)));
  const form = replaced?.key ?? toFormKey(book);
  const rest = dropForm(book, replaced?.key, known?.key);
  const made = draftForm(reading, settings.columns, fields, book.sites[0]!.key, rest);
  const node = {
    ...(known ?? { key: category, label, code: label, takesItems: true }),
    demands: made.demands,
    limits: made.limits,
  };
  const others = rest.tree.filter((n) => n.key !== category);
  const at = known ? book.tree.indexOf(known) : others.length;
  const tree = others.map((n) => ({ ...n, limits: keepLimits(n, made.before) }));
  return {
    form,
    document: {
      ...rest,
      version,
      sku: { ...rest.sku, max: Math.min(rest.sku.max, countSku(reading, settings.columns)) },
      ...{ attributes: made.attributes, codeLists: made.codeLists, roles: { ...rest.roles, ...made.roles } },
      tree: [...tree.slice(0, at), node, ...tree.slice(at)],
      forms: [
        ...rest.forms,
        { ...frameForm(form, rest.market.key, label, reading), for: [category], slots: made.slots },
      ],
      operations: nameForm(rest, form),
    },
  };
}

type Book = RulebookDocument;
type Node = Book['tree'][number];

const toFormKey = ({ forms }: Book): string => {
  const taken = new Set(forms.map((f) => f.key));
  return toKey(draftedForm, taken);
};

/** Demands that held for all categories, as each one's own, and the form that took all as that of those that were there. */
function standByThemselves(book: Book): Book {
  const leaves = book.tree.filter((n) => n.takesItems);
  const named = new Set(book.forms.flatMap((f) => f.for ?? []));
  const left = leaves.filter((n) => !named.has(n.key)).map((n) => n.key);
  return {
    ...book,
    demands: [],
    tree: book.tree.map((n) => (n.takesItems ? { ...n, demands: [...book.demands, ...n.demands] } : n)),
    forms: book.forms.map((f) =>
      f.for === undefined && f.container.kind === 'workbook' && left.length > 0 ? { ...f, for: left } : f,
    ),
  };
}

/** Without a form and what its category asked, and without attributes that nothing names any more. */
function dropForm(book: Book, form: string | undefined, category: string | undefined): Book {
  if (category === undefined) return book;
  // A form that is for others too goes on without it.
  const forms = book.forms
    .filter((f) => f.key !== form)
    .map((f) => (f.for?.includes(category) ? { ...f, for: f.for.filter((node) => node !== category) } : f));
  const tree = book.tree.map((n) => (n.key === category ? { ...n, demands: [], limits: [] } : n));
  const named = new Set([
    ...Object.values(book.roles),
    ...tree.flatMap((n) => [...n.demands.map((d) => d.attribute), ...n.axes]),
    ...forms.flatMap((f) => f.slots).flatMap((s) => ('attribute' in s.holds ? s.holds.attribute.split('@')[0]! : [])),
  ]);
  const attributes = book.attributes.filter((a) => named.has(a.key));
  const lists = new Set([...attributes.map((a) => a.codes), ...tree.flatMap((n) => n.limits.map((l) => l.codes))]);
  return {
    ...{ ...book, forms, tree, attributes },
    codeLists: Object.fromEntries(Object.entries(book.codeLists).filter(([key]) => lists.has(key))),
  };
}

/** The limits of a category, and with them those of attributes that are wider now and were not limited here. */
function keepLimits(node: Node, before: Limits): Limits {
  if (!node.takesItems) return node.limits;
  const asked = new Set(node.demands.map((d) => d.attribute));
  const own = new Map(node.limits.map((l) => [l.attribute, l]));
  for (const was of before)
    if (asked.has(was.attribute))
      own.set(was.attribute, { ...was, ...own.get(was.attribute) } as Node['limits'][number]);
  return [...own.values()];
}

/** The operations, with the form among those of each that goes in workbooks. */
const nameForm = ({ operations, forms, ...book }: Book, form: string): Book['operations'] =>
  Object.fromEntries(
    Object.entries(operations).map(([name, terms]) => {
      if ('as' in terms || !takesTemplates({ ...book, forms, operations: { create: terms } })) return [name, terms];
      const keys = listFormKeys(terms).filter((k) => forms.some((f) => f.key === k));
      const named = [...new Set([...keys, form])];
      return [name, { ...terms, form: named.length === 1 ? form : named }];
    }),
  );
