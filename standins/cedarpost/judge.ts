// The market's own verdict on one entry. Written apart from anything that prepares files: what stands at each place becomes
// a JSON Schema that ajv judges; what concerns several places is judged by hand.
import { Ajv, type ValidateFunction } from 'ajv';
import type { BookAttribute, BookCondition, BookDemand, BookDocument, Group, Json, Note } from './book';
import { lookUp, textAt } from './place';

interface Place {
  key: string;
  as: string;
  attribute: BookAttribute;
}

/** Item codes by the market's own arithmetic: 12 to 14 figures, weights three and one from the right. */
export function isItemCode(text: string): boolean {
  if (!/^\d{12,14}$/.test(text) || /^0+$/.test(text)) return false;
  // The digits that an item's packing is told by stand before the number of the item.
  const item = text.padStart(14, '0').slice(1);
  // Numbers of a house, coupons, serials and sheet music name no item of trade.
  if (/^(2|02|04|977|9790|99)/.test(item)) return false;
  let sum = 0;
  for (let i = text.length - 1, weight = 1; i >= 0; i--, weight = 4 - weight) sum += Number(text[i]) * weight;
  return sum % 10 === 0;
}

const moment = /^(\d{4})-(\d{2})-(\d{2})T\d{2}:\d{2}:\d{2}(Z|[+-]\d{2}:\d{2})$/;
/** A point in time as a number; NaN where the text is none that names its zone. */
export function readMoment(value: Json | undefined): number {
  const [, y, m, d] = typeof value === 'string' ? (moment.exec(value) ?? []) : [];
  const day = new Date(Date.UTC(Number(y), Number(m) - 1, Number(d)));
  return day.getUTCDate() === Number(d) ? Date.parse(value as string) : NaN;
}

function schemaOf(a: BookAttribute, as: string, book: BookDocument): object {
  const range = {
    ...(a.min === undefined ? {} : { minimum: Number(a.min) }),
    ...(a.max === undefined ? {} : { maximum: Number(a.max) }),
  };
  const length = {
    ...(a.minCharacters ? { minLength: a.minCharacters } : {}),
    ...(a.maxCharacters ? { maxLength: a.maxCharacters } : {}),
  };
  const codes = a.codes ? book.codeLists[a.codes]!.entries.map((e) => e.code) : [];
  const list = { type: 'array', minItems: 1, uniqueItems: true, ...(a.maxItems ? { maxItems: a.maxItems } : {}) };
  switch (a.type) {
    case 'one-of':
      return { enum: codes };
    case 'several-of':
      return { ...list, items: { enum: codes } };
    case 'repeated-text':
      return { ...list, items: { type: 'string', ...length } };
    case 'links':
      return {
        type: 'array',
        items: {
          type: 'string',
          pattern: `^https://\\S+(${book.pictures.endings.map((e) => e.replace('.', '\\.')).join('|')})$`,
        },
        minItems: book.pictures.min,
        maxItems: book.pictures.max,
      };
    case 'yes-no':
      return { type: 'boolean' };
    case 'integer':
      return { type: 'integer', ...range };
    case 'money':
      return { type: 'number', multipleOf: 0.01, ...range };
    case 'measure':
    case 'decimal':
      return { type: 'number', multipleOf: 10 ** -(a.decimals ?? 6), ...range };
    default:
      return as === 'number'
        ? { type: 'number' }
        : { type: 'string', ...length, ...(a.pattern ? { pattern: a.pattern.regex } : {}) };
  }
}

export interface Judge {
  /** What is wrong with a whole entry, by itself. */
  judgeEntry: (record: Group) => Note[];
  /** What is wrong with the places of one form of an entry that stands: prices, or quantities. */
  judgePart: (record: Group, form: string) => Note[];
  axesOf: (aisle: string) => readonly string[];
  placeOf: (attribute: string) => string;
}

export function createJudge(book: BookDocument): Judge {
  const ajv = new Ajv({ strict: false, multipleOfPrecision: 7 });
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  const placesOf = (form: string): Place[] =>
    book.forms
      .find((f) => f.key === form)!
      .slots.flatMap(({ key, as, holds }) => {
        const attribute = attributes.get(holds.attribute ?? '');
        return attribute ? [{ key: key.replace('[]', ''), as: as ?? 'text', attribute }] : [];
      });
  const places = placesOf('goods');
  const validate = new Map<string, ValidateFunction>(
    places.map((p) => [p.key, ajv.compile(schemaOf(p.attribute, p.as, book))]),
  );
  const placeOf = (attribute: string): string => places.find((p) => p.attribute.key === attribute)?.key ?? '';
  const nodes = new Map(book.tree.map((n) => [n.key, n]));
  const byCode = new Map(book.tree.map((n) => [n.code ?? n.key, n]));
  const pathOf = (aisle: string) => {
    const path = [];
    for (let at = byCode.get(aisle); at; at = at.parent === undefined ? undefined : nodes.get(at.parent))
      path.unshift(at);
    return path;
  };
  const demandsOf = (aisle: string): BookDemand[] =>
    pathOf(aisle).flatMap((n) => [...(n.uses ?? []).flatMap((u) => book.demandSets[u] ?? []), ...(n.demands ?? [])]);
  const holds = (c: BookCondition, record: Group): boolean => {
    const value = lookUp(record, placeOf(c.attribute));
    return 'filled' in c ? (value !== undefined) === c.filled : typeof value === 'string' && c.is.includes(value);
  };
  const judgePlace = ({ key, attribute }: Place, value: Json): Note[] => {
    if (attribute.type === 'identifier')
      return typeof value === 'string' && isItemCode(value) ? [] : [{ id: 'n_code', at: key }];
    const isRight = attribute.type === 'moment' ? !Number.isNaN(readMoment(value)) : validate.get(key)!(value);
    if (isRight) return [];
    return [{ id: attribute.type === 'one-of' || attribute.type === 'several-of' ? 'n_list' : 'n_form', at: key }];
  };
  return {
    judgeEntry: (record) => {
      const aisle = textAt(record, 'aisle');
      if (!byCode.get(aisle)?.takesItems) return [{ id: 'n_aisle', at: 'aisle' }];
      const demands = demandsOf(aisle),
        isHead = textAt(record, 'kin.part') === 'head';
      const notes = places.flatMap((place): Note[] => {
        const value = lookUp(record, place.key);
        let level = 'unused';
        for (const d of demands)
          if (d.attribute === place.attribute.key && (!d.when || holds(d.when, record))) level = d.level;
        if (isHead && place.attribute.rows === 'sellable') level = 'unused';
        // A family is told apart by what its members have, not by its head.
        if (isHead && (lookUp(record, 'kin.vary') as Json[] | undefined)?.includes(place.attribute.key)) level = 'may';
        if (value === undefined) return level === 'must' ? [{ id: 'n_missing', at: place.key }] : [];
        if (level === 'unused' && !['price', 'stock'].includes(place.attribute.part ?? ''))
          return [{ id: 'n_unused', at: place.key }];
        return judgePlace(place, value);
      });
      return [...notes, ...judgePrices(record), ...judgeQuantity(record, book), ...judgeWords(record, book)];
    },
    judgePart: (record, form) => [
      ...placesOf(form).flatMap((p) => {
        const value = lookUp(record, p.key);
        return value === undefined ? [] : judgePlace(p, value);
      }),
      ...(form === 'worth' && lookUp(record, 'worth.ask') === undefined ? [{ id: 'n_missing', at: 'worth.ask' }] : []),
      ...judgePrices(record),
      ...judgeQuantity(record, book),
    ],
    axesOf: (aisle) => pathOf(aisle).findLast((n) => (n.axes ?? []).length > 0)?.axes ?? [],
    placeOf,
  };
}

/** Floor and ceiling hold for every price; a sale is under the price, and ends after it begins. */
function judgePrices(record: Group): Note[] {
  const amount = (place: string): number => {
    const value = lookUp(record, place);
    return typeof value === 'number' ? value : NaN;
  };
  const ask = amount('worth.ask'),
    deal = amount('worth.deal.ask'),
    least = amount('worth.least'),
    most = amount('worth.most');
  const notes: Note[] = [];
  if (least > most) notes.push({ id: 'n_range', at: 'worth.least' });
  for (const [at, price] of [
    ['worth.ask', ask],
    ['worth.deal.ask', deal],
  ] as const)
    if (price < least || price > most) notes.push({ id: 'n_range', at });
  if (deal >= ask) notes.push({ id: 'n_deal', at: 'worth.deal.ask' });
  const from = lookUp(record, 'worth.deal.from'),
    until = lookUp(record, 'worth.deal.until');
  if (!Number.isNaN(deal) && from === undefined) notes.push({ id: 'n_deal', at: 'worth.deal.from' });
  if (!Number.isNaN(deal) && readMoment(until) < readMoment(from)) notes.push({ id: 'n_deal', at: 'worth.deal.until' });
  return notes;
}

const judgeQuantity = (record: Group, book: BookDocument): Note[] =>
  Number(lookUp(record, 'stock.on_hand') ?? 0) > book.offer.quantityCap ? [{ id: 'n_form', at: 'stock.on_hand' }] : [];

const leads = /https?:|www\.|@\w+\.|(?:\+\d\d|\b0)\d[\d ]{8,}/i;

/** Words that buyers read: no contacts, none that advertise, no shapes. */
function judgeWords(record: Group, book: BookDocument): Note[] {
  const words = (book.text.promotionalWords['en'] ?? []).map((w) => ` ${w} `);
  const advertises = (text: string): boolean => {
    const plain = ` ${text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ')} `;
    return words.some((w) => plain.includes(w));
  };
  const points = lookUp(record, 'say.points');
  const texts = [
    'say.name',
    'say.maker',
    'say.story',
    'facts.size',
    'facts.blend',
    'facts.ingredients',
    'facts.author',
  ];
  return [
    // Pages show what stands there letter by letter: markup would be read as such.
    ...texts.filter((at) => /<[a-z/!?]/i.test(textAt(record, at))).map((at) => ({ id: 'n_form', at })),
    ...['say.name', 'say.story'].flatMap((at) => {
      const text = textAt(record, at);
      return leads.test(text) || advertises(text) ? [{ id: 'n_words', at }] : [];
    }),
    ...(Array.isArray(points) && points.some((p) => typeof p === 'string' && advertises(p))
      ? [{ id: 'n_words', at: 'say.points' }]
      : []),
    ...(/[\u2605\u2606\u2713\u2714\u25a0-\u25ff\u2660-\u2667]/.test(textAt(record, 'say.name'))
      ? [{ id: 'n_form', at: 'say.name' }]
      : []),
  ];
}
