// The market's own verdict on an entry: what speaks for it, and each item in it. Columns become JSON Schemas that ajv judges;
// what concerns characters or several columns is judged by hand.
import { Ajv, type ValidateFunction } from 'ajv';
import type { BookAttribute, BookCondition, BookDemand, BookDocument, BookSlot, Cells, Fault } from './book';
import { bytesOf, columnsOf, hasWrongWidth, isJapanese } from './characters';

const listSign = '/';

/** Barcode arithmetic of the market's own: weights three and one from the right, the sum a multiple of ten. */
export function isBarcode(text: string): boolean {
  if (!/^(\d{8}|\d{13})$/.test(text) || /^(2|02|04|977|9790)/.test(text.padStart(13, '0')) || /^0+$/.test(text))
    return false;
  // Short numbers of these beginnings are a shop's own.
  if (/^[02]\d{7}$/.test(text)) return false;
  if (/^99/.test(text) && text.length === 13) return false;
  let sum = 0;
  for (let i = text.length - 1, weight = 1; i >= 0; i--, weight = 4 - weight) sum += Number(text[i]) * weight;
  return sum % 10 === 0;
}

/** A moment of the market's clock, 2026/11/27 00:00:00, as a number that orders them; NaN where it is none. */
export function readClock(text: string): number {
  const [, y, m, d, h, n, s] = /^(\d{4})\/(\d{2})\/(\d{2}) (\d{2}):(\d{2}):(\d{2})$/.exec(text) ?? [];
  if (s === undefined) return NaN;
  const at = new Date(Date.UTC(Number(y), Number(m) - 1, Number(d), Number(h), Number(n), Number(s)));
  const isThere = at.getUTCDate() === Number(d) && at.getUTCMonth() === Number(m) - 1 && at.getUTCHours() === Number(h);
  return isThere && at.getUTCMinutes() === Number(n) ? at.getTime() : NaN;
}

interface Column {
  key: string;
  attribute: BookAttribute;
}
const toColumns = (book: BookDocument, slots: readonly BookSlot[]): Column[] => {
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  return slots.flatMap(({ key, holds }) => {
    const attribute = attributes.get(holds.attribute ?? '');
    return attribute ? [{ key, attribute }] : [];
  });
};

/** The schema of one filled cell, read as what it holds. */
function schemaOf(a: BookAttribute, book: BookDocument): object {
  const range = { ...(a.min ? { minimum: Number(a.min) } : {}), ...(a.max ? { maximum: Number(a.max) } : {}) };
  const codes = a.codes ? book.codeLists[a.codes]!.entries.map((e) => e.code) : undefined;
  switch (a.type) {
    case 'one-of':
      return { enum: codes };
    case 'several-of':
      return {
        type: 'array',
        items: { enum: codes },
        uniqueItems: true,
        ...(a.maxItems ? { maxItems: a.maxItems } : {}),
      };
    case 'links':
      return { type: 'string', pattern: '^https://\\S+\\.jpg$' };
    case 'integer':
    case 'money':
      return { type: 'integer', ...range };
    case 'measure':
      return { type: 'number', multipleOf: 1 / 10 ** (a.decimals ?? 0), ...range };
    case 'moment':
      return { type: 'number' };
    default:
      return { type: 'string', ...(a.minCharacters ? { minLength: a.minCharacters } : {}) };
  }
}

function readCell(a: BookAttribute, text: string): unknown {
  if (a.type === 'several-of') return text.split(listSign);
  if (a.type === 'integer' || a.type === 'money') return /^\d+$/.test(text) ? Number(text) : text;
  if (a.type === 'measure') return /^\d+(\.\d+)?$/.test(text) ? Number(text) : text;
  if (a.type === 'moment') return Number.isNaN(readClock(text)) ? text : readClock(text);
  return text;
}

export interface Judge {
  headColumns: readonly string[];
  memberColumns: readonly string[];
  /** What is wrong with what speaks for an entry. `divided` are the attributes that tell its items apart. */
  judgeHead: (cells: Cells, divided: readonly string[]) => Fault[];
  /** What is wrong with an item of it; columns are named with {n} for its place. */
  judgeMember: (cells: Cells, head: Cells, divided: readonly string[]) => Fault[];
  /** What is wrong with an offer that comes by itself, by the columns of its form. */
  judgeOffer: (cells: Cells) => Fault[];
  /** The attributes that a word for dividing stands for; undefined for words that stand for none. */
  readDivision: (text: string) => (string | undefined)[];
  axesOf: (shelf: string) => readonly string[];
  /** The column of an item, with {n} for its place, that holds an attribute. */
  memberColumnOf: (attribute: string) => string;
}

export function createJudge(book: BookDocument): Judge {
  const ajv = new Ajv({ strict: false, multipleOfPrecision: 6 });
  const form = book.forms.find((f) => f.key === 'ichiran')!;
  const head = toColumns(book, form.slots),
    member = toColumns(book, form.members!.slots);
  const offer = toColumns(book, book.forms.find((f) => f.key === 'nedan')!.slots);
  const validate = new Map<string, ValidateFunction>(
    book.attributes.map((a) => [a.key, ajv.compile(schemaOf(a, book))]),
  );
  const words = form.slots.find((s) => s.holds.what === 'axes')!.holds.codes!;
  const nodes = new Map(book.tree.map((n) => [n.key, n])),
    byCode = new Map(book.tree.map((n) => [n.code, n]));
  const pathOf = (code: string) => {
    const path = [];
    for (let at = byCode.get(code); at; at = at.parent === undefined ? undefined : nodes.get(at.parent))
      path.unshift(at);
    return path;
  };
  const demandsOf = (code: string): BookDemand[] =>
    pathOf(code).flatMap((n) => [...(n.uses ?? []).flatMap((u) => book.demandSets[u] ?? []), ...(n.demands ?? [])]);
  const judgeCell = ({ key, attribute: a }: Column, text: string): Fault[] => {
    if (text === '') return [];
    const found = (code: string): Fault => ({ code, column: key });
    if (a.type === 'identifier') return isBarcode(text) ? [] : [found('307')];
    const faults: Fault[] = [];
    if (!validate.get(a.key)!(readCell(a, text)))
      faults.push(found(a.type === 'one-of' || a.type === 'several-of' ? '303' : '302'));
    if (a.maxBytes !== undefined && bytesOf(text) > a.maxBytes) faults.push(found('305'));
    if (a.maxColumns !== undefined && columnsOf(text) > a.maxColumns) faults.push(found('305'));
    if (a.widths && hasWrongWidth(text, a.widths)) faults.push(found('306'));
    if (a.pattern && !new RegExp(a.pattern.regex, 'u').test(text)) faults.push(found('302'));
    if (a.scripts && !isJapanese(text)) faults.push(found('317'));
    return faults;
  };
  const judgeRow = (
    columns: readonly Column[],
    cells: Cells,
    shelf: string,
    divided: readonly string[],
    beside: Cells,
  ): Fault[] => {
    const demands = demandsOf(shelf);
    const filled = (attribute: string): string[] =>
      [...head, ...member].filter((c) => c.attribute.key === attribute).map((c) => cells[c.key] || beside[c.key] || '');
    const holds = (c: BookCondition): boolean => {
      const there = filled(c.attribute).filter((t) => t !== '');
      return 'filled' in c ? there.length > 0 === c.filled : there.some((t) => c.is.includes(t));
    };
    return columns.flatMap((column) => {
      const { attribute: a, key } = column;
      const text = cells[key] ?? '';
      let level = 'unused';
      for (const d of demands) if (d.attribute === a.key && (!d.when || holds(d.when))) level = d.level;
      if (a.type === 'links') return judgeCell(column, text);
      if (level === 'must' && text === '' && !divided.includes(a.key)) return [{ code: '301', column: key }];
      if (text !== '' && level === 'unused' && a.part === undefined) return [{ code: '304', column: key }];
      return judgeCell(column, text);
    });
  };
  return {
    headColumns: head.map((c) => c.key),
    memberColumns: member.map((c) => c.key),
    judgeHead: (cells, divided) => {
      const shelf = cells['棚'] ?? '';
      if (!byCode.get(shelf)?.takesItems) return [{ code: '312', column: '棚' }];
      return [
        ...judgeRow(head, cells, shelf, divided, {}),
        ...judgePictures(cells, book),
        ...['呼び名', '話', '英字名'].flatMap((k) => judgeText(k, cells[k] ?? '', book)),
      ];
    },
    judgeMember: (cells, headCells, divided) => [
      ...judgeRow(member, cells, headCells['棚'] ?? '', divided, headCells),
      ...judgeSale(cells, '枝{n}'),
      ...(Number(cells['枝{n}残り']) > book.offer.quantityCap ? [{ code: '302', column: '枝{n}残り' }] : []),
    ],
    judgeOffer: (cells) => [
      ...offer.flatMap((c) => judgeCell(c, cells[c.key] ?? '')),
      ...judgeSale(cells, ''),
      ...(Number(cells['残り']) > book.offer.quantityCap ? [{ code: '302', column: '残り' }] : []),
    ],
    readDivision: (text) =>
      text
        .split(listSign)
        .filter((w) => w !== '')
        .map((w) => Object.entries(words).find(([, word]) => word === w)?.[0]),
    axesOf: (code) => pathOf(code).findLast((n) => (n.axes ?? []).length > 0)?.axes ?? [],
    memberColumnOf: (attribute) => member.find((c) => c.attribute.key === attribute)?.key ?? '',
  };
}

function judgePictures(cells: Cells, book: BookDocument): Fault[] {
  const links = Array.from({ length: book.pictures.max }, (_, i) => cells[`絵${i + 1}`] ?? '').filter((t) => t !== '');
  return links.length === 0 ? [{ code: '301', column: '絵1' }] : [];
}

const leads = /https?:|www\.|@\w+\.|(?:\+\d\d|\b0)\d[\d ]{8,}/i;

/** No contacts, and none of the words that advertise; the name has no signs that only catch the eye. */
function judgeText(column: string, text: string, book: BookDocument): Fault[] {
  if (text === '' || column === '英字名') return [];
  const isAdvertising = (book.text.promotionalWords['ja'] ?? []).some((w) => text.includes(w));
  if (leads.test(text) || isAdvertising) return [{ code: '309', column }];
  const isDecorated = column === '呼び名' && /[\u2605\u2606\u2713\u2714\u25a0-\u25ff\u2660-\u2667]/.test(text);
  return isDecorated ? [{ code: '302', column }] : [];
}

function judgeSale(cells: Cells, before: string): Fault[] {
  const at = (name: string): string => cells[`${before}${name}`] ?? '';
  const sale = at('安値'),
    from = readClock(at('安値から')),
    till = readClock(at('安値まで'));
  if (sale === '') return [];
  if (at('値') !== '' && Number(sale) >= Number(at('値'))) return [{ code: '310', column: `${before}安値` }];
  if (Number.isNaN(from)) return [{ code: '310', column: `${before}安値から` }];
  return till < from ? [{ code: '310', column: `${before}安値まで` }] : [];
}
