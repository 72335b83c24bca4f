// The market's own verdict on one entry. Written apart from anything that prepares files: what stands at each place becomes
// a JSON Schema that ajv judges; what concerns several places is judged by hand.
import { Ajv, type ValidateFunction } from 'ajv';
import type { BookAttribute, BookCondition, BookDemand, BookDocument, Cells, Fault } from './book';

export const textAt = (cells: Cells, place: string): string => {
  const there = cells[place];
  return typeof there === 'string' ? there : '';
};

/** The market's barcode arithmetic: books and magazines too, magazines also by their own number. */
export function isBarcode(text: string): boolean {
  const issn = /^(\d{4})-?(\d{3})([\dX])$/.exec(text);
  if (issn && text.length <= 9) {
    const sum = [...(issn[1]! + issn[2]!)].reduce((n, c, i) => n + Number(c) * (8 - i), 0);
    const check = (11 - (sum % 11)) % 11;
    if ((check === 10 ? 'X' : String(check)) === issn[3]) return true;
  }
  if (!/^(\d{8}|\d{12,13})$/.test(text) || /^0+$/.test(text)) return false;
  const number = text.padStart(13, '0');
  // Numbers of a house, of coupons and of sheet music name no goods; eight figures that begin with 0 or 2 neither.
  if (/^(2|02|04|9790|99)/.test(number) || (text.length === 8 && /^[02]/.test(text))) return false;
  let sum = 0;
  for (let i = text.length - 1, weight = 1; i >= 0; i--, weight = 4 - weight) sum += Number(text[i]) * weight;
  return sum % 10 === 0;
}

interface Place {
  key: string;
  attribute: BookAttribute;
  what: string;
  tongue: string | undefined;
}

const isDay = (text: string): boolean => {
  const day = /^\d{4}-\d{2}-\d{2}$/.test(text) ? new Date(`${text}T00:00:00Z`) : undefined;
  return day !== undefined && !Number.isNaN(day.getTime()) && day.toISOString().startsWith(text);
};

function schemaOf(a: BookAttribute, book: BookDocument): object {
  const range = {
    ...(a.min === undefined ? {} : { minimum: Number(a.min) }),
    ...(a.max === undefined ? {} : { maximum: Number(a.max) }),
  };
  const length = {
    ...(a.minCharacters ? { minLength: a.minCharacters } : {}),
    ...(a.maxCharacters ? { maxLength: a.maxCharacters } : {}),
  };
  switch (a.type) {
    case 'one-of':
      return { enum: book.codeLists[a.codes!]!.entries.map((e) => e.code) };
    case 'repeated-text':
      return { type: 'array', items: { type: 'string', ...length }, uniqueItems: true, maxItems: a.maxItems ?? 99 };
    case 'links':
      return {
        type: 'array',
        minItems: book.pictures.min,
        maxItems: book.pictures.max,
        items: { type: 'string', pattern: `^https://\\S+(${book.pictures.endings.join('|').replaceAll('.', '\\.')})$` },
      };
    case 'integer':
      return { type: 'integer', ...range };
    case 'money':
    case 'measure':
      return { type: 'number', multipleOf: 10 ** -(a.decimals ?? 6), ...range };
    default:
      return { type: 'string', ...length };
  }
}

const numbers: ReadonlySet<string> = new Set(['integer', 'money', 'measure']);
const readValue = (a: BookAttribute, there: string | string[]): unknown =>
  numbers.has(a.type) && typeof there === 'string' && /^\d+(\.\d+)?$/.test(there) ? Number(there) : there;

export interface Judge {
  /** What is wrong with a whole entry, by itself. */
  judgeEntry: (cells: Cells) => Fault[];
  /** What is wrong with the terms of an entry that stands. */
  judgeTerms: (cells: Cells) => Fault[];
  axesOf: (shelf: string) => readonly string[];
  placeOf: (attribute: string) => string;
  /** Places that hold several. */
  many: ReadonlySet<string>;
}

export function createJudge(book: BookDocument): Judge {
  const ajv = new Ajv({ strict: false, multipleOfPrecision: 7 });
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  const slots = book.forms.find((f) => f.key === 'full')!.slots;
  const places = slots.flatMap(({ key, holds }): Place[] => {
    const [name = '', tongue] = (holds.attribute ?? '').split('@');
    const attribute = attributes.get(name);
    return attribute ? [{ key, attribute, what: holds.what, tongue }] : [];
  });
  const values = places.filter((p) => p.what !== 'unit'),
    units = places.filter((p) => p.what === 'unit');
  const validate = new Map<string, ValidateFunction>(
    book.attributes.map((a) => [a.key, ajv.compile(schemaOf(a, book))]),
  );
  const nodes = new Map(book.tree.map((n) => [n.key, n]));
  const byCode = new Map(book.tree.map((n) => [n.code ?? n.key, n]));
  const pathOf = (shelf: string) => {
    const path = [];
    for (let at = byCode.get(shelf); at; at = at.parent === undefined ? undefined : nodes.get(at.parent))
      path.unshift(at);
    return path;
  };
  const demandsOf = (shelf: string): BookDemand[] =>
    pathOf(shelf).flatMap((n) => [...(n.uses ?? []).flatMap((u) => book.demandSets[u] ?? []), ...(n.demands ?? [])]);
  const holds = (c: BookCondition, cells: Cells, tongue: string | undefined): boolean => {
    const there = values
      .filter(
        (p) =>
          p.attribute.key === c.attribute && (p.tongue === undefined || tongue === undefined || p.tongue === tongue),
      )
      .map((p) => cells[p.key])
      .filter((v) => v !== undefined);
    return 'filled' in c ? there.length > 0 === c.filled : there.some((v) => typeof v === 'string' && c.is.includes(v));
  };
  const judgePlace = ({ key, attribute, tongue }: Place, there: string | string[]): Fault[] => {
    if (attribute.type === 'identifier')
      return typeof there === 'string' && isBarcode(there) ? [] : [{ id: 'w05', at: key }];
    if (attribute.type === 'date') return typeof there === 'string' && isDay(there) ? [] : [{ id: 'w02', at: key }];
    if (!validate.get(attribute.key)!(readValue(attribute, there)))
      return [{ id: attribute.type === 'one-of' ? 'w03' : 'w02', at: key }];
    return tongue === undefined ? [] : judgeTongue(key, [there].flat(), tongue);
  };
  const isTerm = (a: BookAttribute): boolean => a.part === 'price' || a.part === 'stock';
  const judgeUnits = (cells: Cells): Fault[] =>
    units.flatMap(({ key, attribute }) => {
      const amount = cells[key.replace('.@unit', '')],
        unit = cells[key];
      return amount !== undefined && !attribute.units!.includes(String(unit)) ? [{ id: 'w02', at: key }] : [];
    });
  return {
    many: new Set(slots.map((s) => s.key).filter((k) => k.endsWith('[]'))),
    judgeEntry: (cells) => {
      const shelf = textAt(cells, 'shelf');
      if (!byCode.get(shelf)?.takesItems) return [{ id: 'w11', at: 'shelf' }];
      const demands = demandsOf(shelf);
      const faults = values.flatMap((place): Fault[] => {
        const there = cells[place.key];
        let level = 'unused';
        for (const d of demands)
          if (d.attribute === place.attribute.key && (!d.when || holds(d.when, cells, place.tongue))) level = d.level;
        if (there === undefined) return level === 'must' ? [{ id: 'w01', at: place.key }] : [];
        if (level === 'unused' && !isTerm(place.attribute)) return [{ id: 'w04', at: place.key }];
        return judgePlace(place, there);
      });
      return [
        ...faults,
        ...judgeUnits(cells),
        ...judgeSale(cells),
        ...judgeStock(cells, book),
        ...judgeWords(cells, book),
      ];
    },
    judgeTerms: (cells) => [
      ...values
        .filter((p) => isTerm(p.attribute) && cells[p.key] !== undefined)
        .flatMap((p) => judgePlace(p, cells[p.key]!)),
      ...judgeSale(cells),
      ...judgeStock(cells, book),
    ],
    axesOf: (shelf) => pathOf(shelf).findLast((n) => (n.axes ?? []).length > 0)?.axes ?? [],
    placeOf: (attribute) => values.find((p) => p.attribute.key === attribute)?.key ?? '',
  };
}

/** A text is in its own letters; those of names may stand among Arabic ones. */
function judgeTongue(at: string, texts: readonly string[], tongue: string): Fault[] {
  const isRight = (text: string): boolean => {
    const letters = [...text].filter((c) => /\p{L}/u.test(c));
    const arabic = letters.filter((c) => /\p{Script=Arabic}/u.test(c)).length,
      latin = letters.filter((c) => /\p{Script=Latin}/u.test(c)).length,
      none = letters.filter((c) => /[\p{Script=Common}\p{Script=Inherited}]/u.test(c)).length;
    if (letters.length === 0) return true;
    return tongue === 'ar'
      ? arabic > 0 && arabic + latin + none === letters.length
      : latin > 0 && latin + none === letters.length;
  };
  return texts.every(isRight) ? [] : [{ id: 'w07', at }];
}

function judgeSale(cells: Cells): Fault[] {
  const sale = textAt(cells, 'terms.sale'),
    from = textAt(cells, 'terms.sale.@from'),
    to = textAt(cells, 'terms.sale.@to');
  if (sale === '') return [];
  const faults: Fault[] = [];
  if (Number(sale) >= Number(textAt(cells, 'terms.price'))) faults.push({ id: 'w09', at: 'terms.sale' });
  if (from === '') faults.push({ id: 'w09', at: 'terms.sale.@from' });
  if (from !== '' && to !== '' && to < from) faults.push({ id: 'w09', at: 'terms.sale.@to' });
  return faults;
}

const judgeStock = (cells: Cells, book: BookDocument): Fault[] =>
  Number(textAt(cells, 'terms.pieces') || 0) > book.offer.quantityCap ? [{ id: 'w02', at: 'terms.pieces' }] : [];

const leads = /https?:|www\.|@\w+\.|(?:\+\d\d|\b0)\d[\d ]{8,}/i;
const shapes = /[\u2605\u2606\u2713\u2714\u25a0-\u25ff\u2660-\u2667]/;

/** Words that buyers read: no contacts, none that advertise, no markup. */
function judgeWords(cells: Cells, book: BookDocument): Fault[] {
  const named = ['maker', 'facts.fact[name=size]', 'facts.fact[name=blend]']
    .filter((at) => /<[a-z/!?]/i.test(textAt(cells, at)))
    .map((at) => ({ id: 'w02', at }));
  const worded = ['ar', 'en'].flatMap((tongue) => {
    const words = (book.text.promotionalWords[tongue] ?? []).map((w) => ` ${w} `);
    const advertises = (text: string): boolean => {
      const plain = ` ${text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ')} `;
      return words.some((w) => plain.includes(w));
    };
    const at = (name: string): string => `words[tongue=${tongue}].${name}`;
    const points = [cells[at('point[]')] ?? []].flat();
    return [
      ...['name', 'story'].flatMap((name) => {
        const text = textAt(cells, at(name));
        return leads.test(text) || advertises(text) ? [{ id: 'w08', at: at(name) }] : [];
      }),
      ...(points.some(advertises) ? [{ id: 'w08', at: at('point[]') }] : []),
      ...(shapes.test(textAt(cells, at('name'))) ? [{ id: 'w02', at: at('name') }] : []),
      ...['name', 'story', 'made_of']
        .filter((name) => /<[a-z/!?]/i.test(textAt(cells, at(name))))
        .map((name) => ({ id: 'w02', at: at(name) })),
    ];
  });
  return [...named, ...worded];
}
