import type { Rulebook, RulebookAttribute } from './schema';

const ownTypes: ReadonlySet<RulebookAttribute['type']> = new Set(['identifier', 'links', 'html', 'long-text', 'money']);

/**
 * True where one value can be right for many items, as a country or a battery type can. What names, describes or prices
 * an item is its own. Common practice.
 */
export function canBeAlike(book: Rulebook, attribute: RulebookAttribute): boolean {
  const { title, quantity, highlights, boxContents, pictures } = book.roles;
  return !ownTypes.has(attribute.type) && ![title, quantity, highlights, boxContents, pictures].includes(attribute.key);
}

/** Attributes by whose values those of another are judged, shown beside it; from the roles that the rulebook gives. */
export function listRelated(book: Rulebook, check: string, axes: readonly string[] = []): string[] {
  const { brand, identifier, price, salePrice, saleStart, saleEnd } = book.roles;
  const related: Readonly<Record<string, readonly (string | undefined)[]>> = {
    'price-rules': [price, salePrice, saleStart, saleEnd],
    'identifier-wrong': [brand],
    'identifier-twice': [brand],
    'live-fact-changed': [brand, identifier],
    'title-form': [brand],
    'family-rules': axes,
  };
  return (related[check] ?? []).filter((k): k is string => k !== undefined);
}

/** What the fields of a listing are called: the market's attributes by their labels, and our own beside them. */
export function createLabeler(book: Rulebook): (field: string) => string {
  const labels = new Map([
    ...book.attributes.map((a) => [a.key, a.label] as const),
    ['sku', 'SKU'],
    ['category', 'Category'],
  ]);
  return (field) => labels.get(field) ?? field;
}

/** What people call the values of a field: the words of its codes, one or several as a listing or a sentence has them; others as they are. */
export function createWorder(book: Rulebook): (field: string, value: string) => string {
  const words = new Map(
    book.attributes.flatMap((a) => {
      const list = a.codes === undefined ? undefined : book.codeLists[a.codes];
      return list ? [[a.key, new Map(list.entries.map((e) => [e.code, e.label]))] as const] : [];
    }),
  );
  return (field, value) => {
    const known = words.get(field);
    if (!known) return value;
    const whole = known.get(value);
    return (
      whole ??
      value
        .split(/( \| |, )/)
        .map((part) => known.get(part) ?? part)
        .join('')
    );
  };
}

/** Every attribute that divides families somewhere in the tree. */
export const listAxes = (book: Rulebook): string[] => [...new Set(book.tree.flatMap((n) => n.axes))];
