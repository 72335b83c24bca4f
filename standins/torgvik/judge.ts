// The market's own verdict on a row of whole goods. Written apart from anything that prepares files: the columns of a shelf
// become JSON Schemas that ajv judges; what concerns several columns or rows is judged by hand.
import { Ajv, type ValidateFunction } from 'ajv';
import type { BookAttribute, BookCondition, BookDemand, BookDocument, Cells, Fault } from './book';

const listSign = '|';

/** A day of the market, 27.11.2026, as a number that orders days; NaN where it is none. */
export function readDay(text: string): number {
  const [, d, m, y] = /^(\d{2})\.(\d{2})\.(\d{4})$/.exec(text) ?? [];
  if (y === undefined) return NaN;
  const day = new Date(Date.UTC(Number(y), Number(m) - 1, Number(d)));
  return day.getUTCDate() === Number(d) && day.getUTCMonth() === Number(m) - 1 ? day.getTime() : NaN;
}

/** An amount with a decimal comma; NaN where it is none. */
export const readAmount = (text: string): number => (/^\d+(,\d+)?$/.test(text) ? Number(text.replace(',', '.')) : NaN);

/** Barcode arithmetic of the market's own: weights three and one from the right, the sum a multiple of ten. */
export function isBarcode(text: string): boolean {
  if (!/^(\d{8}|\d{13})$/.test(text) || /^(2|02|04|977|9790)/.test(text.padStart(13, '0')) || /^0+$/.test(text))
    return false;
  if (/^99/.test(text) && text.length === 13) return false;
  let sum = 0;
  for (let i = text.length - 1, weight = 1; i >= 0; i--, weight = 4 - weight) sum += Number(text[i]) * weight;
  return sum % 10 === 0;
}

interface Column {
  key: string;
  attribute: BookAttribute;
  /** The language of a text, or the site of a price. */
  facet: string | undefined;
}

/** Columns of the form of whole goods, with what they hold. Pictures stand in several. */
function listColumns(book: BookDocument): Column[] {
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  return book.forms
    .find((f) => f.key === 'hel')!
    .slots.flatMap(({ key, holds }) => {
      const [name = '', facet] = (holds.attribute ?? '').split('@');
      const attribute = attributes.get(name);
      return attribute ? [{ key, attribute, facet }] : [];
    });
}

const belongsToOffer = (a: BookAttribute): boolean => a.part === 'price' || a.part === 'stock';

/** The schema of one filled cell, read as what it holds. */
function schemaOf(a: BookAttribute, book: BookDocument): object {
  const length = {
    ...(a.maxCharacters ? { maxLength: a.maxCharacters } : {}),
    ...(a.minCharacters ? { minLength: a.minCharacters } : {}),
  };
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
    case 'repeated-text':
      return {
        type: 'array',
        items: { type: 'string', ...length },
        uniqueItems: true,
        ...(a.maxItems ? { maxItems: a.maxItems } : {}),
      };
    case 'links':
      return { type: 'string', pattern: '^https://\\S+\\.(jpg|jpeg)$' };
    case 'measure':
    case 'integer':
      return { type: 'integer', ...range };
    case 'money':
      return { type: 'number', multipleOf: 0.01, ...range };
    case 'yes-no':
      return { enum: ['ja', 'nej'] };
    case 'date':
      return { type: 'number' };
    default:
      return { type: 'string', ...length };
  }
}

function readCell(a: BookAttribute, text: string): unknown {
  if (a.type === 'several-of' || a.type === 'repeated-text') return text.split(listSign);
  if (a.type === 'money') return Number.isNaN(readAmount(text)) ? text : readAmount(text);
  if (a.type === 'measure' || a.type === 'integer') return /^\d+$/.test(text) ? Number(text) : text;
  if (a.type === 'date') return Number.isNaN(readDay(text)) ? text : readDay(text);
  return text;
}

export interface Judge {
  /** Countries in which a row is not sold. */
  unsoldIn: (cells: Cells) => readonly string[];
  /** What is wrong with a row of whole goods, by itself. */
  judgeRow: (cells: Cells) => Fault[];
  /** What is wrong with an offer in one country: price, sale, quantity. */
  judgeOffer: (cells: Cells, site: string, currency: string) => Fault[];
  axesOf: (shelf: string) => readonly string[];
  /** The column that holds what an attribute of a group is told apart by. */
  columnOf: (attribute: string) => string;
}

export function createJudge(book: BookDocument): Judge {
  const ajv = new Ajv({ strict: false, multipleOfPrecision: 6 });
  const columns = listColumns(book);
  const validate = new Map<string, ValidateFunction>(
    book.attributes.map((a) => [a.key, ajv.compile(schemaOf(a, book))]),
  );
  const nodes = new Map(book.tree.map((n) => [n.key, n]));
  const byCode = new Map(book.tree.map((n) => [n.code, n]));
  const pathOf = (code: string) => {
    const path = [];
    for (let at = byCode.get(code); at; at = at.parent === undefined ? undefined : nodes.get(at.parent))
      path.unshift(at);
    return path;
  };
  const demandsOf = (code: string): BookDemand[] =>
    pathOf(code).flatMap((n) => [...(n.uses ?? []).flatMap((u) => book.demandSets[u] ?? []), ...(n.demands ?? [])]);
  const cellsOf = (cells: Cells, attribute: string, facet: string | undefined): string[] =>
    columns
      .filter(
        (c) => c.attribute.key === attribute && (c.facet === undefined || facet === undefined || c.facet === facet),
      )
      .map((c) => cells[c.key] ?? '')
      .filter((t) => t !== '');
  const holds = (c: BookCondition, cells: Cells, facet: string | undefined): boolean => {
    const there = cellsOf(cells, c.attribute, facet);
    return 'filled' in c ? there.length > 0 === c.filled : there.some((t) => c.is.includes(t));
  };
  const levelOf = (demands: readonly BookDemand[], column: Column, cells: Cells): string => {
    let level = 'unused';
    for (const d of demands)
      if (d.attribute === column.attribute.key && (!d.when || holds(d.when, cells, column.facet))) level = d.level;
    return level;
  };
  const judgeCell = ({ key, attribute: a }: Column, text: string): Fault[] => {
    if (text === '') return [];
    if (a.type === 'identifier') return isBarcode(text) ? [] : [{ code: '130', field: key }];
    const isRight = validate.get(a.key)!(readCell(a, text));
    if (isRight) return [];
    return [{ code: a.type === 'one-of' || a.type === 'several-of' ? '118' : '110', field: key }];
  };
  /** Countries, and what is read only there, of which a row says nothing at all: it is not sold there. */
  const listUnsold = (cells: Cells): ReadonlySet<string> => {
    const sold = (s: BookDocument['sites'][number]): boolean =>
      columns.some((c) => (c.facet === s.key || s.languages.includes(c.facet ?? '')) && (cells[c.key] ?? '') !== '');
    const here = book.sites.filter(sold);
    if (here.length === 0) return new Set();
    const read = new Set(here.flatMap((s) => s.languages));
    return new Set(
      book.sites.filter((s) => !sold(s)).flatMap((s) => [s.key, ...s.languages.filter((l) => !read.has(l))]),
    );
  };
  return {
    unsoldIn: (cells) => book.sites.map((s) => s.key).filter((s) => listUnsold(cells).has(s)),
    judgeRow: (cells) => {
      if (!byCode.get(cells['hylla'] ?? '')?.takesItems) return [{ code: '230', field: 'hylla' }];
      const demands = demandsOf(cells['hylla']!);
      const out = listUnsold(cells);
      const faults = columns.flatMap((column) => {
        const text = cells[column.key] ?? '';
        // In a country where it is not sold nothing is asked for.
        if (text === '' && column.facet !== undefined && out.has(column.facet)) return [];
        const level = levelOf(demands, column, cells);
        // Pictures beyond the first ones that are asked for may be missing.
        if (column.attribute.type === 'links') return judgeCell(column, text);
        if (level === 'must' && text === '')
          return [{ code: column.attribute.by === 'language' ? '140' : '101', field: column.key }];
        if (level === 'unused' && text !== '' && !belongsToOffer(column.attribute))
          return [{ code: '121', field: column.key }];
        return judgeCell(column, text);
      });
      return [
        ...faults,
        ...judgePictures(cells, book),
        ...columns.flatMap((c) => judgeText(c, cells[c.key] ?? '', book)),
        ...book.sites
          .filter((s) => !out.has(s.key))
          .flatMap((s) => judgeSale(cells[`pris_${s.key}`] ?? '', cells, `_${s.key}`)),
        ...judgeQuantity(cells, book),
      ];
    },
    judgeOffer: (cells, site, currency) => [
      ...(cells['valuta'] === currency ? [] : [{ code: '207', field: 'valuta' }]),
      ...(cells['pris'] ? [] : [{ code: '101', field: 'pris' }]),
      ...columns
        .filter((c) => belongsToOffer(c.attribute) && (c.facet ?? site) === site)
        .flatMap((c) => judgeCell({ ...c, key: c.attribute.key }, cells[c.attribute.key] ?? '')),
      ...judgeSale(cells['pris'] ?? '', cells, ''),
      ...judgeQuantity(cells, book),
    ],
    axesOf: (code) => pathOf(code).findLast((n) => (n.axes ?? []).length > 0)?.axes ?? [],
    columnOf: (attribute) => columns.find((c) => c.attribute.key === attribute)?.key ?? '',
  };
}

function judgePictures(cells: Cells, book: BookDocument): Fault[] {
  const links = Object.keys(cells).filter((k) => k.startsWith('bild_') && cells[k] !== '');
  const twice = new Set(links.map((k) => cells[k])).size < links.length;
  return links.length < book.pictures.min
    ? [{ code: '101', field: 'bild_1' }]
    : twice
      ? [{ code: '110', field: 'bild_1' }]
      : [];
}

const leads = /https?:|www\.|@\w+\.|(?:\+\d\d|\b0)\d[\d ]{8,}/i;
const speaking: ReadonlySet<string> = new Set(['titel', 'text', 'punkter']);

/** A text of the market's own languages: no contacts, none of the words of that language, only the tags that shape it. */
function judgeText({ key, attribute, facet }: Column, text: string, book: BookDocument): Fault[] {
  if (text === '' || !speaking.has(attribute.key)) return [];
  const words = ` ${text.toLocaleLowerCase('de').replace(/[^\p{L}\p{N}]+/gu, ' ')} `;
  const isAdvertising = (book.text.promotionalWords[facet ?? ''] ?? []).some((w) => words.includes(` ${w} `));
  if ((leads.test(text) && attribute.key !== 'punkter') || isAdvertising) return [{ code: '141', field: key }];
  if (attribute.key === 'titel' && /[\u2605\u2606\u2713\u2714\u25a0-\u25ff\u2660-\u2667]/.test(text))
    return [{ code: '110', field: key }];
  if (attribute.type !== 'html') return [];
  const tags = [...text.matchAll(/<\/?([a-z0-9]+)([^>]*)>/gi)];
  const isRight = tags.every((t) => (attribute.tags ?? []).includes(t[1]!.toLowerCase()) && !t[2]!.includes('='));
  return isRight ? [] : [{ code: '110', field: key }];
}

function judgeSale(price: string, cells: Cells, ending: string): Fault[] {
  const sale = cells[`reapris${ending}`] ?? '',
    from = readDay(cells[`rea_fran${ending}`] ?? ''),
    till = readDay(cells[`rea_till${ending}`] ?? '');
  if (sale !== '' && readAmount(sale) >= readAmount(price)) return [{ code: '208', field: `reapris${ending}` }];
  if (sale !== '' && Number.isNaN(from)) return [{ code: '208', field: `rea_fran${ending}` }];
  return till < from ? [{ code: '208', field: `rea_till${ending}` }] : [];
}

const judgeQuantity = (cells: Cells, book: BookDocument): Fault[] =>
  Number(cells['antal']) > book.offer.quantityCap ? [{ code: '160', field: 'antal' }] : [];
