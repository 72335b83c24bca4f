// The market's own verdict on a row. Written apart from anything that prepares feeds: the facts of a shelf become a JSON
// Schema that ajv judges, and rules across rows are judged by hand here.
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import type { BookAttribute, BookCondition, BookDocument } from './book';

export interface Verdict {
  verdict: 'TAKEN' | 'NOTED' | 'TURNED BACK';
  code: string;
  field: string;
}
export type Cells = Readonly<Record<string, string>>;

/** Barcode arithmetic of the market's own: sum of digits with every second one, from the right, counted three times. */
export function isTrueNumber(text: string): boolean {
  if (/^977\d{10}$|^97[89]\d{10}$|^\d{8}$|^\d{12}$|^\d{13}$|^\d{14}$/.test(text) && !/^0+$/.test(text)) {
    const reversed = text.split('').reverse().map(Number);
    return reversed.reduce((sum, d, i) => sum + d * (i % 2 === 1 ? 3 : 1), 0) % 10 === 0;
  }
  const issn = /^(\d{4})-?(\d{3})([\dX])$/.exec(text);
  if (!issn) return false;
  const digits = (issn[1]! + issn[2]!).split('').map(Number);
  const sum = digits.reduce((s, d, i) => s + d * (8 - i), 0) + (issn[3] === 'X' ? 10 : Number(issn[3]));
  return sum % 11 === 0;
}

const shopOnly = /^(?:2|02|04)/;
const listJoin = '|';

/** One row of the file as a plain object: lists split, amounts with their units. */
export function toRecord(cells: Cells, attributes: readonly BookAttribute[]): Record<string, unknown> {
  const record: Record<string, unknown> = {};
  for (const a of attributes) {
    if (a.type === 'links') {
      const links = Object.keys(cells)
        .filter((k) => k.startsWith('picture_'))
        .map((k) => cells[k]!)
        .filter((v) => v !== '' && v !== '#empty#');
      if (links.length) record[a.key] = links;
      continue;
    }
    const cell = cells[a.key];
    if (cell === undefined || cell === '' || cell === '#empty#') continue;
    if (a.type === 'several-of' || a.type === 'repeated-text') record[a.key] = cell.split(listJoin);
    else if (a.type === 'integer' || a.type === 'decimal' || a.type === 'money')
      record[a.key] = /^\d+(\.\d+)?$/.test(cell) ? Number(cell) : cell;
    else if (a.type === 'measure')
      record[a.key] = { amount: /^\d+(\.\d+)?$/.test(cell) ? Number(cell) : cell, unit: cells[`${a.key}_unit`] ?? '' };
    else record[a.key] = cell;
  }
  return record;
}

function schemaOf(a: BookAttribute, book: BookDocument): object {
  const codes = a.codes ? book.codeLists[a.codes]!.entries.map((e) => e.code) : undefined;
  const length = {
    ...(a.maxCharacters ? { maxLength: a.maxCharacters } : {}),
    ...(a.minCharacters ? { minLength: a.minCharacters } : {}),
    ...(a.pattern ? { pattern: a.pattern.regex } : {}),
  };
  const items = { ...(a.maxItems ? { maxItems: a.maxItems } : {}), uniqueItems: true };
  const range = { ...(a.min ? { minimum: Number(a.min) } : {}), ...(a.max ? { maximum: Number(a.max) } : {}) };
  switch (a.type) {
    case 'one-of':
      return { enum: codes };
    case 'several-of':
      return { type: 'array', items: { enum: codes }, ...items };
    case 'repeated-text':
      return { type: 'array', items: { type: 'string', ...length }, ...items };
    case 'links':
      return {
        type: 'array',
        items: { type: 'string', pattern: '^https://\\S+\\.(jpg|jpeg|png)$' },
        minItems: book.pictures.min,
        maxItems: book.pictures.max,
      };
    case 'integer':
      return { type: 'integer', ...range };
    case 'decimal':
      return { type: 'number', ...range };
    case 'money':
      return { type: 'number', ...range, exclusiveMinimum: 0 };
    case 'yes-no':
      return { enum: ['Y', 'N'] };
    case 'date':
      return { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}$' };
    case 'measure':
      return {
        type: 'object',
        required: ['amount', 'unit'],
        anyOf: (a.units ?? []).map((unit) => ({
          properties: {
            unit: { const: unit },
            amount: {
              type: 'number',
              ...(a.min ? { minimum: Number(a.min) * perFirst(unit, a.units![0]!) } : {}),
              ...(a.max ? { maximum: Number(a.max) * perFirst(unit, a.units![0]!) } : {}),
            },
          },
        })),
      };
    default:
      return { type: 'string', ...length };
  }
}

/** How many of a unit make one of the unit in which the bounds are given. */
const perFirst = (unit: string, first: string): number =>
  (({ 'cm>mm': 10, 'l>ml': 1000, 'g>kg': 0.001, 'W>kW': 0.001 }) as Record<string, number>)[`${first}>${unit}`] ?? 1;

/** A rulebook condition as a JSON Schema that holds where the condition holds. */
function conditionSchema(c: BookCondition): object {
  if ('all' in c) return { allOf: c.all.map(conditionSchema) };
  if ('any' in c) return { anyOf: c.any.map(conditionSchema) };
  if ('not' in c) return { not: conditionSchema(c.not) };
  if ('filled' in c) return c.filled ? { required: [c.attribute] } : { not: { required: [c.attribute] } };
  if ('is' in c) {
    const told = c.is.flatMap((v) =>
      v === 'yes' ? ['Y', v] : v === 'no' ? ['N', v] : /^\d+$/.test(v) ? [v, Number(v)] : [v],
    );
    return {
      required: [c.attribute],
      properties: { [c.attribute]: { anyOf: [{ enum: told }, { type: 'array', contains: { enum: told } }] } },
    };
  }
  return {
    required: [c.attribute],
    properties: { [c.attribute]: { type: 'number', exclusiveMinimum: Number(c.over) } },
  };
}

type RowKind = 'head' | 'member' | '';
const belongs = (a: BookAttribute, kind: RowKind): boolean =>
  a.rows === undefined ||
  a.rows === 'all' ||
  (a.rows === 'parent' ? kind === 'head' : a.rows === 'variant' ? kind === 'member' : kind !== 'head');

const judges = new WeakMap<BookDocument, Judge>();
interface Judge {
  judgeEntry: (cells: Cells, kind: RowKind) => Verdict | undefined;
  judgeFields: (cells: Cells, attributes: readonly string[]) => Verdict | undefined;
}

/** A judge for each shelf and kind of row; schemas are compiled once a book. */
export function createJudge(book: BookDocument): Judge {
  const known = judges.get(book) ?? buildJudge(book);
  judges.set(book, known);
  return known;
}

function buildJudge(book: BookDocument): Judge {
  const ajv = new Ajv({ allErrors: false, strict: false });
  const compiled = new Map<string, ValidateFunction>();
  const shelves = new Map(book.tree.map((n) => [n.key, n]));
  const compile = (shelf: string, kind: RowKind, dividedBy: string): ValidateFunction | undefined => {
    // A head row is not asked for what its members are told apart by.
    const spared = kind === 'head' ? dividedBy.split(listJoin) : [];
    const name = `${shelf}/${kind}/${kind === 'head' ? dividedBy : ''}`;
    const known = compiled.get(name);
    const node = shelves.get(shelf);
    if (known || !node?.takesItems) return known;
    const demands = [...book.demands, ...(node.demands ?? [])];
    const used = book.attributes.filter(
      (a) => belongs(a, kind) && demands.some((d) => d.attribute === a.key && d.level !== 'unused'),
    );
    const required = used
      .filter((a) => {
        const plain = demands.filter((d) => d.attribute === a.key && !d.when).at(-1);
        return plain?.level === 'must' && !spared.includes(a.key);
      })
      .map((a) => a.key);
    const allOf = demands
      .filter(
        (d) => d.when && d.level === 'must' && used.some((a) => a.key === d.attribute) && !spared.includes(d.attribute),
      )
      .map((d) => ({ if: conditionSchema(d.when!), then: { required: [d.attribute] } }));
    const validate = ajv.compile({
      type: 'object',
      required,
      properties: Object.fromEntries(used.map((a) => [a.key, schemaOf(a, book)])),
      additionalProperties: false,
      ...(allOf.length ? { allOf } : {}),
    });
    compiled.set(name, validate);
    return validate;
  };
  return {
    judgeEntry: (cells, kind) => {
      const validate = compile(cells['shelf'] ?? '', kind, cells['divided_by'] ?? '');
      if (!validate) return turned('Q12', 'shelf');
      if (!validate(toRecord(cells, book.attributes))) return toVerdict(validate.errors![0]!);
      return judgeText(cells, book) ?? judgePrice(cells) ?? (kind === 'head' ? undefined : judgeNumber(cells));
    },
    judgeFields: (cells, attributes) => {
      const record = toRecord(
        cells,
        book.attributes.filter((a) => attributes.includes(a.key)),
      );
      for (const a of book.attributes) {
        if (!(a.key in record)) continue;
        const key = `field/${a.key}`;
        const validate = compiled.get(key) ?? ajv.compile(schemaOf(a, book));
        compiled.set(key, validate);
        if (!validate(record[a.key])) return { ...toVerdict(validate.errors![0]!), field: columnOf(a.key) };
      }
      return judgeText(cells, book) ?? judgePrice(cells);
    },
  };
}

const turned = (code: string, field: string): Verdict => ({ verdict: 'TURNED BACK', code, field });
const columnOf = (attribute: string): string => (attribute === 'pictures' ? 'picture_1' : attribute);

function toVerdict(error: ErrorObject): Verdict {
  const top = error.instancePath.split('/')[1] ?? '';
  switch (error.keyword) {
    case 'required':
      return turned(top ? 'Q12' : 'Q10', columnOf(top || String(error.params['missingProperty'])));
    case 'additionalProperties':
      return turned('Q13', columnOf(String(error.params['additionalProperty'])));
    case 'enum':
      return turned('Q11', columnOf(top));
    case 'maxLength':
      return turned('Q14', columnOf(top));
    default:
      return turned(top === 'pictures' ? 'Q60' : 'Q12', columnOf(top));
  }
}

function judgeNumber(cells: Cells): Verdict | undefined {
  const number = cells['item_number'] ?? '';
  if (!isTrueNumber(number) || shopOnly.test(number.padStart(13, '0')) || (number.length === 14 && number[0] !== '0'))
    return turned('Q20', 'item_number');
  const kind = cells['item_number_kind'] ?? '';
  const told: Record<string, RegExp> = {
    B: /^\d{8}$/,
    D: /^\d{12}$/,
    F: /^\d{13}$/,
    H: /^\d{14}$/,
    R: /^97[89]\d{10}$/,
    S: /^\d{4}-?\d{3}[\dX]$/,
  };
  return told[kind]?.test(number) ? undefined : turned('Q12', 'item_number_kind');
}

const leads = /https?:|www\.|@\w+\.|(?:\+44|\b0)\d[\d ]{8,}/i;
function judgeText(cells: Cells, book: BookDocument): Verdict | undefined {
  for (const field of ['title', 'description', 'highlights', 'search_words']) {
    const text = cells[field] ?? '';
    if (leads.test(text)) return turned('Q40', field);
    const lower = ` ${text.toLowerCase().replace(/[^a-z0-9]+/g, ' ')} `;
    if (book.text.promotionalWords.some((w) => lower.includes(` ${w} `))) return turned('Q40', field);
    if (/[\u2605\u2606\u2713\u2714\u25a0-\u25ff\u2660-\u2667]/.test(text)) return turned('Q12', field);
  }
  const tags = [...(cells['description'] ?? '').matchAll(/<\/?([a-z0-9]+)([^>]*)>/gi)];
  return tags.some((t) => !['p', 'br', 'b', 'ul', 'li'].includes(t[1]!.toLowerCase()) || t[2]!.includes('='))
    ? turned('Q12', 'description')
    : undefined;
}

function judgePrice(cells: Cells): Verdict | undefined {
  const price = Number(cells['price'] || NaN),
    sale = Number(cells['sale_price'] || NaN);
  if (sale >= price) return turned('Q50', 'sale_price');
  if (
    cells['sale_start'] &&
    cells['sale_end'] &&
    cells['sale_end'] !== '#empty#' &&
    cells['sale_end'] < cells['sale_start']
  )
    return turned('Q50', 'sale_end');
  return undefined;
}
