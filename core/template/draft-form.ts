// The columns of a blank template as a form of a rulebook: slots, the attributes that stand in them, what is demanded. What the
// rulebook asks already, for another category, is the same attribute again; where that has to hold more than before, it is
// widened, and a limit says what is narrower where.
import type { FieldBook, ProductField } from '../product';
import { readHeadingUnit } from '../product';
import type { RulebookDraft } from '../rulebook';
import { splitWords } from './split-words';
import type { TemplateColumn, TemplateLevel, TemplateReading } from './understand-template';

/** What a person says of columns, by their places: another field of ours (none where it is empty), another level. */
export type SaidOfColumns = Readonly<Record<number, { field?: string; level?: TemplateLevel }>>;

type Attribute = RulebookDraft['attributes'][number];
type CodeLists = RulebookDraft['codeLists'];
type Entries = CodeLists[string]['entries'];
type Node = RulebookDraft['tree'][number];
export type Limits = NonNullable<Node['limits']>;
type Limit = Limits[number];
type Slot = RulebookDraft['forms'][number]['slots'][number];
export type Roles = Partial<Record<'title' | 'brand' | 'identifier' | 'price' | 'quantity' | 'pictures', string>>;

/** What a rulebook asks before another template comes to it. */
export interface Asked {
  attributes: readonly Attribute[];
  codeLists: CodeLists;
  roles: Roles;
}
export interface DraftedForm extends Asked {
  attributes: Attribute[];
  roles: Required<Roles>;
  slots: Slot[];
  demands: NonNullable<Node['demands']>;
  /** What is narrower for this template than an attribute is by itself. */
  limits: Limits;
  /** What was asked before of attributes that are wider now: it goes on to hold where it held. */
  before: Limits;
}

/** A key of a rulebook: small letters, digits and underscores, a letter first. */
export function toKey(text: string, taken: ReadonlySet<string> = new Set()): string {
  const plain = splitWords(text)
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, 40);
  const base = /^[a-z]/.test(plain) ? plain : `field${plain === '' ? '' : `_${plain}`}`;
  let key = base;
  for (let n = 2; taken.has(key); n++) key = `${base}_${n}`;
  return key;
}

/** Fields of ours that are a part of the row itself, not a value of the listing. */
const ofRow = { sku: 'sku', parent_sku: 'parent-sku', category: 'category' } as const;
/** What a market has to know of every item, by our fields; an attribute that no column holds is asked of nobody. */
const roleOf = {
  title: 'title',
  brand: 'brand',
  gtin: 'identifier',
  price: 'price',
  stock: 'quantity',
  pictures: 'pictures',
} as const;
type Shape = Partial<Attribute> & Pick<Attribute, 'type'>;
const shapes: Readonly<Record<string, Shape>> = {
  title: { type: 'text' },
  brand: { type: 'text' },
  gtin: { type: 'identifier', kinds: ['gtin-8', 'gtin-12', 'gtin-13', 'gtin-14'], rows: 'sellable' },
  price: { type: 'money', part: 'price', by: 'site', rows: 'sellable' },
  sale_price: { type: 'money', part: 'price', by: 'site', rows: 'sellable' },
  stock: { type: 'integer', part: 'stock', rows: 'sellable' },
  pictures: { type: 'links', part: 'pictures' },
  highlights: { type: 'repeated-text' },
};

/** How a value of a field of ours is told to a market that says no more of it than a heading. */
function shapeOf(field: ProductField | undefined, { values, heading, maxCharacters }: TemplateColumn): Shape {
  if (values.length > 0) return { type: field?.kind === 'list' ? 'several-of' : 'one-of' };
  const known = field && shapes[field.key];
  if (known) return known;
  switch (field?.kind) {
    case 'long-text':
      return { type: 'long-text' };
    case 'integer':
      return { type: 'integer' };
    case 'number':
      return { type: 'decimal', decimals: 3 };
    case 'money':
      return { type: 'money', by: 'site', rows: 'sellable' };
    case 'date':
      return { type: 'date' };
    case 'yes-no':
      return { type: 'yes-no' };
    case 'list':
      return { type: 'repeated-text' };
    case 'measure': {
      const unit = readHeadingUnit(heading) ?? field.unit;
      return unit === undefined ? { type: 'text' } : { type: 'measure', units: [unit], decimals: 2 };
    }
    default:
      return { type: maxCharacters !== undefined && maxCharacters > oneLine ? 'long-text' : 'text' };
  }
}
/** Characters of which a text is no longer one line. */
const oneLine = 300;
const longestLabel = 80,
  longestCode = 200;
const levelRank: readonly TemplateLevel[] = ['may', 'should', 'must'];
const isText = ({ type }: Pick<Attribute, 'type'>): boolean => type === 'text' || type === 'long-text';

const toEntries = (values: readonly string[]): Entries =>
  values.map((v) => ({ code: v.slice(0, longestCode), label: v.slice(0, longestCode) }));

/** Makes the form of a template that was read, with what its columns ask beyond what is asked already. */
export function draftForm(
  { columns }: TemplateReading,
  said: SaidOfColumns,
  fields: FieldBook,
  site: string,
  asked: Asked = { attributes: [], codeLists: {}, roles: {} },
): DraftedForm {
  const attributes = new Map(asked.attributes.map((a) => [a.key, a]));
  const codeLists: CodeLists = { ...asked.codeLists };
  const roles: Roles = { ...asked.roles };
  const limits: Limits = [],
    before: Limits = [];
  const taken = new Set([...attributes.keys(), ...Object.keys(codeLists)]);
  /** Attributes that stand in a column of this template already: another column is another attribute. */
  const used = new Set<string>();
  const levels = new Map<string, TemplateLevel>();
  /** Attributes that several columns share, by the field of ours: pictures one to five. */
  const shared = new Map<string, { key: string; columns: number }>();
  const fieldAt = (c: TemplateColumn): string | undefined => (said[c.index]?.field ?? c.field) || undefined;
  const listAt = (c: TemplateColumn): string | undefined => {
    const f = fieldAt(c);
    return f !== undefined && fields.get(f)?.kind === 'list' && c.values.length === 0 ? f : undefined;
  };
  const columnsOf = (field: string): number => columns.filter((c) => listAt(c) === field).length;
  const toNewKey = (text: string): string => {
    const key = toKey(text, taken);
    taken.add(key);
    return key;
  };

  const make = (c: TemplateColumn): Attribute => {
    const own = fieldAt(c);
    const shape = shapeOf(own === undefined ? undefined : fields.get(own), c);
    return {
      ...{ key: '', label: (c.label || c.heading || `Column ${c.index + 1}`).slice(0, longestLabel), group: 'all' },
      ...shape,
      ...(isText(shape) && c.maxCharacters !== undefined ? { maxCharacters: c.maxCharacters } : {}),
      ...(shape.type === 'repeated-text' && own !== undefined && columnsOf(own) > 1
        ? { maxItems: columnsOf(own) }
        : {}),
      ...(c.help === undefined ? {} : { help: c.help }),
      ...(c.example === undefined ? {} : { example: c.example }),
      ...(own === undefined ? {} : { from: own }),
    };
  };
  /** What is asked already under the same name, or for the same role, and can hold the same. */
  const findSame = (made: Attribute): Attribute | undefined => {
    const role = roleOf[made.from as keyof typeof roleOf] as keyof Roles | undefined;
    const ofRole = role && roles[role];
    const isAlike = (a: Attribute): boolean =>
      !used.has(a.key) && (a.type === made.type || (isText(a) && isText(made))) && a.by === made.by;
    const same = ofRole === undefined ? undefined : attributes.get(ofRole);
    if (same && isAlike(same)) return same;
    const alike = [...attributes.values()].filter((a) => isAlike(a) && a.from === made.from && a.key !== ofRole);
    return alike.find((a) => a.label === made.label) ?? (made.from === undefined ? undefined : alike[0]);
  };
  /** Makes an attribute as wide as both; what is narrower on either side is a limit there. */
  const widen = (a: Attribute, made: Attribute, values: readonly string[]): Attribute => {
    const was: Limit = { attribute: a.key },
      here: Limit = { attribute: a.key };
    const wide: Attribute = { ...a, type: a.type === 'text' ? made.type : a.type };
    for (const part of ['maxCharacters', 'maxItems'] as const) {
      const old = a[part],
        own = made[part];
      if (old === own) continue;
      // What no template limits is limited nowhere.
      if (old === undefined || own === undefined) Reflect.deleteProperty(wide, part);
      else wide[part] = Math.max(old, own);
      if (old !== undefined && old !== wide[part]) was[part] = old;
      if (own !== undefined && own !== wide[part]) here[part] = own;
    }
    if (made.units) wide.units = [...new Set([...(a.units ?? []), ...made.units])];
    const list = a.codes === undefined ? undefined : codeLists[a.codes];
    if (list && values.length > 0) {
      const old = new Set(list.entries.map((e) => e.code)),
        own = toEntries(values);
      const added = own.filter((e) => !old.has(e.code));
      if (added.length > 0) {
        const kept = toNewKey(a.codes!);
        codeLists[kept] = list;
        was.codes = kept;
        codeLists[a.codes!] = { ...list, entries: [...list.entries, ...added] };
      }
      if (own.length < old.size + added.length) {
        const narrow = toNewKey(a.codes!);
        codeLists[narrow] = { label: list.label, entries: own };
        here.codes = narrow;
      }
    }
    for (const [limit, to] of [
      [was, before],
      [here, limits],
    ] as const)
      if (Object.keys(limit).length > 1) to.push(limit);
    return wide;
  };
  const addAttribute = (c: TemplateColumn): Attribute => {
    const made = make(c);
    const same = findSame(made);
    let attribute: Attribute;
    if (same) attribute = widen(same, made, c.values);
    else {
      const key = toNewKey(c.key ?? c.label);
      attribute = { ...made, key, ...(c.values.length > 0 ? { codes: key } : {}) };
      if (c.values.length > 0) codeLists[key] = { label: made.label, entries: toEntries(c.values) };
    }
    attributes.set(attribute.key, attribute);
    used.add(attribute.key);
    const role = roleOf[attribute.from as keyof typeof roleOf] as keyof Roles | undefined;
    if (role !== undefined) roles[role] ??= attribute.key;
    return attribute;
  };
  const want = (key: string, level: TemplateLevel): void => {
    const known = levels.get(key);
    if (known === undefined || levelRank.indexOf(level) > levelRank.indexOf(known)) levels.set(key, level);
  };

  const slotKeys = new Set<string>();
  const nameSlot = (text: string): string => {
    let name = text;
    for (let n = 2; slotKeys.has(name); n++) name = `${text} ${n}`;
    slotKeys.add(name);
    return name;
  };
  const toSlot = (c: TemplateColumn): Slot => {
    const level = said[c.index]?.level ?? c.level;
    const heading = c.heading || `Column ${c.index + 1}`;
    const named = { key: nameSlot(c.key ?? heading), label: heading };
    const own = fieldAt(c);
    if (own !== undefined && own in ofRow) return { ...named, holds: { what: ofRow[own as keyof typeof ofRow] } };
    const list = listAt(c);
    if (list !== undefined) {
      const known = shared.get(list) ?? { key: addAttribute(c).key, columns: 0 };
      shared.set(list, { ...known, columns: known.columns + 1 });
      // The first of several must be filled where the template says so; the others are its further places.
      want(known.key, known.columns === 0 ? level : 'may');
      return columnsOf(list) === 1
        ? { ...named, holds: { what: 'value', attribute: known.key } }
        : { ...named, holds: { what: 'item', attribute: known.key, position: known.columns + 1 } };
    }
    const { key, type, by } = addAttribute(c);
    want(key, level);
    if (type === 'measure') return { ...named, holds: { what: 'amount', attribute: key, in: make(c).units![0]! } };
    return { ...named, holds: { what: 'value', attribute: by === 'site' ? `${key}@${site}` : key } };
  };
  const byPlace = new Map(columns.map((c) => [c.index, c]));
  const width = Math.max(...columns.map((c) => c.index)) + 1;
  const slots = Array.from({ length: width }, (_, index): Slot => {
    const c = byPlace.get(index);
    return c ? toSlot(c) : fillGap(index);
  });
  /** A column without a heading keeps its place; nothing is ever written there. */
  function fillGap(index: number): Slot {
    const label = `Column ${index + 1}`;
    const key = toNewKey(label);
    attributes.set(key, { key, label, group: 'all', type: 'text' });
    return { key: nameSlot(label), label, holds: { what: 'value', attribute: key } };
  }
  for (const [own, role] of Object.entries(roleOf)) {
    if (roles[role] !== undefined) continue;
    const key = toNewKey(own);
    attributes.set(key, { key, label: fields.labelOf(own), group: 'all', ...shapes[own]!, from: own });
    roles[role] = key;
  }
  return {
    ...{ slots, codeLists, limits, before },
    attributes: [...attributes.values()],
    roles: roles as Required<Roles>,
    demands: [...levels].map(([attribute, level]) => ({ attribute, level })),
  };
}
