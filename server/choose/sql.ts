// Which items are meant, as a condition on products p. One clause each.
import { type Clause, type FieldClause, isFieldClause, spreadMeasure, toCode } from '@basileus/core/choose';
import { type FieldBook, type ProductField, readMarketKey } from '@basileus/core/product';
import { exact, getEndingStep, knownUnits, readDate } from '@basileus/core/quantity';
import { bundleStockSql, toDaySql, toHeldSql, toHeldTextSql, toListSql, toNumberSql, toTextSql } from './held';

export interface Condition {
  sql: string;
  bindings: unknown[];
}
const say = (sql: string, ...bindings: unknown[]): Condition => ({ sql, bindings });
const escapeLike = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

const compared = { over: '>', 'at-least': '>=', under: '<', 'at-most': '<=', equals: '=' } as const;
type Compared = keyof typeof compared;

/** Letters of A to Z, and what has no capitals at all: signs, figures, Arabic and Japanese script. */
const isPlain = (text: string): boolean =>
  [...text].every((c) => c.charCodeAt(0) < 0x80 || c.toLowerCase() === c.toUpperCase());
/**
 * A text in small letters, to be compared with some words. Where those have capitals in A to Z alone no others have to be made
 * small, which takes a fifth of the time. (The signs of Kelvin and the Turkish dotted I, whose small letters are a plain k and i,
 * are then found only as themselves.)
 */
const toLower = (text: string, words: readonly string[]): string =>
  words.every(isPlain) ? `lower((${text}) collate "C")` : `lower(${text})`;

/** Whether a text in small letters holds what is bound: looked for by leaps, which takes two thirds of the time of a pattern. */
const holds = (lower: string): string => `position(lower(?) in ${lower}) > 0`;

function toTextCondition(text: string, c: FieldClause): Condition {
  const lower = toLower(text, 'value' in c ? [c.value] : 'values' in c ? c.values : []);
  switch (c.is) {
    case 'equals':
      return say(`${lower} = lower(?)`, c.value.trim());
    case 'differs':
      return say(`coalesce(${lower}, '') <> lower(?)`, c.value.trim());
    case 'contains':
      return say(holds(lower), c.value);
    case 'lacks':
      return say(`not coalesce(${holds(lower)}, false)`, c.value);
    case 'starts':
      return say(`${lower} like lower(?)`, `${escapeLike(c.value)}%`);
    case 'ends':
      return say(`${lower} like lower(?)`, `%${escapeLike(c.value)}`);
    case 'one-of':
      return say(`${lower} = any(?)`, lowered(c.values));
    case 'none-of':
      return say(`coalesce(${lower}, '') <> all(?)`, lowered(c.values));
    case 'within':
      return say(`${text} in (select name from own_lineage where lower(ancestor) = lower(?))`, c.value.trim());
    default:
      return toFilled(`nullif(${text}, '')`, c.is);
  }
}
const lowered = (values: readonly string[]): string[] => values.map((v) => v.trim().toLowerCase());
const toFilled = (text: string, is: string): Condition => say(`(${text}) is ${is === 'filled' ? 'not ' : ''}null`);

const ranges = { numeric: 'numrange', date: 'daterange' } as const;
/** Numbers and days alike: compared, between two, or with an ending (12.99 ends in .99, and in 2.99). */
function toOrderCondition(
  column: string,
  c: FieldClause,
  read: (value: string) => string,
  type: 'numeric' | 'date',
): Condition {
  if (c.is === 'between') {
    const [from, to] = [read(c.from), read(c.to)],
      isOrdered = type === 'date' ? from <= to : exact(from).lte(exact(to));
    // As one range, so that what stands in JSON is read once. Nothing lies between a greater and a lesser.
    return isOrdered ? say(`(${column}) <@ ${ranges[type]}(?::${type}, ?::${type}, '[]')`, from, to) : say('false');
  }
  if (c.is === 'differs') return say(`(${column}) is distinct from ?::${type}`, read(c.value));
  if (c.is === 'ends') {
    const ending = exact(read(c.value));
    return say(`mod(${column}, ?::numeric) = ?::numeric`, getEndingStep(ending), ending.toFixed());
  }
  if (c.is in compared && 'value' in c)
    return say(`(${column}) ${compared[c.is as Compared]} ?::${type}`, read(c.value));
  return toFilled(column, c.is);
}

const mostLookedFor = 5;
/** A text as it stands inside the JSON of a list. */
const inJson = (text: string): string => JSON.stringify(text).slice(1, -1);
const isPlainInJson = (text: string): boolean => inJson(text) === text;
/**
 * Whether a piece of text, where it stands in the JSON of a list, can only stand inside of an entry: it holds nothing that JSON
 * writes otherwise, and something that does not stand between entries.
 */
const isOfEntry = (text: string): boolean => isPlainInJson(text) && /[^[\], ]/.test(text);

/**
 * Entries of a list, whatever their capitals. The JSON of the list is looked at as a text first: most hold none of the words
 * at all, and a word in its quotation marks is an entry, unless some entry holds quotation marks of its own. No set of rows is
 * made of it, so that several cores may look.
 */
function toListCondition(field: ProductField, c: FieldClause): Condition {
  const held = toHeldSql(field),
    lower = toLower(`(${held})::text`, 'value' in c ? [c.value] : 'values' in c ? c.values : []);
  const not = ({ sql, bindings }: Condition): Condition => ({ sql: `not ${sql}`, bindings });
  const hasEntry = (words: readonly string[], sql: string, ...bindings: unknown[]): Condition => {
    if (words.length === 0 || words.length > mostLookedFor) return say(`coalesce(${sql}, false)`, ...bindings);
    const isPlain = words.every(isPlainInJson) ? `position('\\' in (${held})::text) = 0 or ` : '';
    return say(
      `coalesce((${words.map(() => holds(lower)).join(' or ')}) and (${isPlain}${sql}), false)`,
      ...words.map((word) => JSON.stringify(word)),
      ...bindings,
    );
  };
  if (c.is === 'equals' || c.is === 'differs') {
    const value = c.value.trim();
    const found = hasEntry([value], `${lower}::jsonb @> to_jsonb(lower(?::text))`, value);
    return c.is === 'equals' ? found : not(found);
  }
  if (c.is === 'one-of' || c.is === 'none-of') {
    const values = lowered(c.values);
    const found = hasEntry(values, `jsonb_exists_any(${lower}::jsonb, ?::text[])`, values);
    return c.is === 'one-of' ? found : not(found);
  }
  if (c.is === 'contains' || c.is === 'lacks') {
    const path = `$[*] ? (@ like_regex ${JSON.stringify(c.value)} flag "iq")`;
    const found = isOfEntry(c.value)
      ? say(`coalesce(${holds(lower)}, false)`, c.value)
      : say(`coalesce(${holds(lower)} and jsonb_path_exists(${held}, ?::jsonpath), false)`, inJson(c.value), path);
    return c.is === 'contains' ? found : not(found);
  }
  return say(`jsonb_array_length(${toListSql(field)}) ${c.is === 'filled' ? '>' : '='} 0`);
}

/** A stored measure against one that is given, whatever the units, where both measure the same. */
function toMeasureCondition(field: ProductField, c: FieldClause): Condition {
  if (!('value' in c)) return toFilled(toTextSql(field), c.is);
  const amounts = spreadMeasure(c.value, field.unit, knownUnits);
  // Its figures stand before its unit: cutting them off takes half of the time that a pattern for them would.
  const text = toHeldTextSql(field),
    unit = `ltrim(${text}, '-0123456789. ')`,
    is = compared[c.is as Compared];
  const others = say(
    `case when (${text}) collate "C" ~ '^-{0,1}[0-9]+(\\.[0-9]+){0,1} *[^-0-9. ]' then
      left(${text}, -length(${unit}))::numeric ${is} (?::jsonb ->> rtrim(${unit}))::numeric end`,
    JSON.stringify(amounts),
  );
  const units = Object.entries(amounts);
  if (units.length === 0) return others;
  // As nearly all are written, "28 cm" and "2.4 kg": what stands behind the figures is compared with each unit, and what stands
  // before it with its amount, which takes half of the time. What begins with a dash, a point or a space comes before the nought in
  // the order of bytes, and is read the long way.
  const sql = `case when (${text}) collate "C" >= '0' and ${text} not like '%.%.%' then
      case ltrim(${text}, '0123456789.')
        ${units.map(([unit]) => `when ? then left(${text}, ${-unit.length - 1})::numeric ${is} ?::numeric`).join(' ')}
        else ${others.sql} end
    when ${text} <> '' then ${others.sql} end`;
  return say(sql, ...units.flatMap(([unit, amount]) => [` ${unit}`, amount]), ...others.bindings, ...others.bindings);
}

/** Amounts and counts as they are compared; an ending may be written without its nought. */
const readNumber = (v: string): string => (v.trim().startsWith('.') ? `0${v.trim()}` : v.trim());

/**
 * Stock is added up for all that have any, in one go; for bundles, which are few, by their parts. What has none at all is
 * empty, and differs from every number.
 */
function toStockCondition(c: FieldClause): Condition {
  const isEmptyToo = c.is === 'differs' || c.is === 'empty';
  const asked: FieldClause =
    c.is === 'differs' ? { ...c, is: 'equals' } : c.is === 'empty' ? { is: 'filled', field: c.field } : c;
  const counted = toOrderCondition('sum(s.on_hand)', asked, readNumber, 'numeric'),
    ofParts = toOrderCondition(bundleStockSql, asked, readNumber, 'numeric');
  const has = say(
    `case when p.kind = 'bundle' then coalesce(${ofParts.sql}, false)
      else p.id in (select s.product_id from stock s group by 1 having ${counted.sql}) end`,
    ...ofParts.bindings,
    ...counted.bindings,
  );
  return isEmptyToo ? { ...has, sql: `not (${has.sql})` } : has;
}

/** Fields whose words stand in the index that search boxes ask. */
const searched: ReadonlySet<string> = new Set(['sku', 'title', 'brand', 'gtin', 'mpn']);
/** What must be true where a condition is, and is found out sooner; nothing where there is no such thing. */
const toQuickLook = (c: FieldClause, { key }: ProductField): Condition | undefined =>
  'value' in c && c.is !== 'differs' && c.is !== 'lacks' && searched.has(key)
    ? say('p.search like lower(?)', `%${escapeLike(c.value.trim())}%`)
    : undefined;

function toFieldCondition(c: FieldClause, field: ProductField): Condition {
  if (field.key === 'stock') return toStockCondition(c);
  const exact = toExactCondition(c, field),
    quick = toQuickLook(c, field);
  return quick ? say(`(${quick.sql} and (${exact.sql}))`, ...quick.bindings, ...exact.bindings) : exact;
}

function toExactCondition(c: FieldClause, field: ProductField): Condition {
  switch (field.kind) {
    case 'money':
    case 'number':
    case 'integer':
      return toOrderCondition(toNumberSql(field), c, readNumber, 'numeric');
    case 'date':
      return toOrderCondition(toDaySql(field), c, (v) => readDate(v, 'day-first')!, 'date');
    case 'list':
      return toListCondition(field, c);
    case 'measure':
      return toMeasureCondition(field, c);
    default:
      return toTextCondition(toHeldTextSql(field), c);
  }
}

/** Words of a closed list as the codes that are kept. */
const toCodes = (c: FieldClause, field: ProductField): FieldClause =>
  field.words === undefined
    ? c
    : 'values' in c
      ? { ...c, values: c.values.map((v) => toCode(field, v)) }
      : 'value' in c
        ? { ...c, value: toCode(field, c.value) }
        : c;

/**
 * One condition about the listings of a market: true of items that are wanted there and whose leaf, one of `leaves`, has the
 * field; what is not asked of an item does not lack it.
 */
export function toListingSql(
  c: FieldClause,
  field: ProductField,
  market: number,
  leaves: readonly string[] | undefined,
): Condition {
  const { attribute } = readMarketKey(field.key)!;
  const made =
    c.is === 'typed' || c.is === 'from-catalog'
      ? say(`${c.is === 'typed' ? '' : 'not '}jsonb_exists(l.overrides, ?)`, attribute)
      : toFieldCondition(toCodes(c, field), field);
  const within = leaves === undefined ? say('true') : say('l.category = any(?)', leaves);
  // The row of a family lacks no price there either.
  const rows = field.rows === 'sellable' ? `p.kind <> 'family' and ` : '';
  return {
    sql: `${rows}p.id in (select l.product_id from listings l where l.market_id = ? and l.market_state <> 'left out' and ${within.sql} and (${made.sql}))`,
    bindings: [market, ...within.bindings, ...made.bindings],
  };
}

/** One condition about our own data. Those about markets are made where markets are known. */
export function toClauseSql(c: Exclude<Clause, { is: 'state' | 'finding' }>, book: FieldBook): Condition {
  if (isFieldClause(c)) {
    const field = book.get(c.field)!;
    const made = toFieldCondition(c, field);
    // The row of a family lacks no price: it has none.
    return field.rows === 'sellable' ? { ...made, sql: `(p.kind <> 'family' and (${made.sql}))` } : made;
  }
  switch (c.is) {
    case 'import':
      return say('p.sku in (select r.sku from import_rows r where r.import_id = ? and r.applied)', c.import);
    case 'change-set':
      return say(
        `p.id in (select case s.target when 'products' then i.target_id else (select l.product_id from listings l where l.id = i.target_id) end
          from change_items i join change_sets s on s.id = i.change_set_id where s.id = ?)`,
        c.set,
      );
    case 'changed':
      return say('p.updated_at >= ?::date', c.since);
  }
}
