// How single values are written in a form, and read again: days, yes and no, money, numbers.
import { exact, fitsCurrency, formatMoney, judgeMoment, toLocalTime, toMoment, writeNumber } from '../quantity';
import type { Form, Rulebook, RulebookAttribute, Site } from '../rulebook/schema';
import { remember } from './remember';

type Text = Form['text'];
type Write = (value: string, site: Site) => string;
type Read = (cell: string) => string;

const isoDay = /^(\d{4})-(\d{2})-(\d{2})$/;
/** A day as a form writes it; what is no day stays as it is. */
export function writeDay(value: string, form: Text['dates']): string {
  const parts = isoDay.exec(value);
  if (!parts) return value;
  const [, year = '', month = '', day = ''] = parts;
  return form.replace('yyyy', year).replace('MM', month).replace('dd', day);
}

/** A day in ISO form from how a form writes it; what is no day stays as it is. */
export function readDay(cell: string, form: Text['dates']): string {
  if (cell.length !== form.length) return cell;
  const at = (part: string): string => cell.slice(form.indexOf(part), form.indexOf(part) + part.length);
  const iso = `${at('yyyy')}-${at('MM')}-${at('dd')}`;
  return isoDay.test(iso) && writeDay(iso, form) === cell ? iso : cell;
}

const clockForm = /^(\d{4})\/(\d{2})\/(\d{2}) (\d{2}:\d{2}:\d{2})$/;
/** A moment as the clock of a place shows it; what is none stays as it is. */
const writeClock = (value: string, timeZone: string): string =>
  judgeMoment(value) === 'moment' ? toLocalTime(value, timeZone).replaceAll('-', '/').replace('T', ' ') : value;
/** The moment of a clock of a place. */
function readClock(cell: string, timeZone: string): string {
  const [, year, month, day, time] = clockForm.exec(cell) ?? [];
  const local = `${year}-${month}-${day}T${time}`;
  return time !== undefined && judgeMoment(local) === 'without-zone' ? toMoment(local, timeZone) : cell;
}

const isNumeric = (a: RulebookAttribute): boolean => a.type === 'decimal' || a.type === 'money' || a.type === 'integer';
const plainNumber = /^-?\d+(\.\d+)?$/;
const hasPlaces = (value: string, currency: string): boolean =>
  plainNumber.test(value) && fitsCurrency(value, currency);

/** The number of a cell with a point. */
export const readNumberCell = (cell: string, sign: Text['decimalSign']): string =>
  sign === ',' ? cell.replace(',', '.') : cell;

/** The same without the zeros that a currency's places have added. */
function readPlaces(cell: string, sign: Text['decimalSign']): string {
  const text = readNumberCell(cell, sign);
  return plainNumber.test(text) ? exact(text).toFixed() : text;
}

/** What stands in a cell as it is held. */
export const asItIs: { write: Write; read: Read } = { write: (v) => v, read: (c) => c };

/** Writing and reading of one value of an attribute, prepared. */
export function prepareValue(book: Rulebook, text: Text, a: RulebookAttribute): { write: Write; read: Read } {
  if (a.type === 'yes-no')
    return {
      write: (v) => (v === 'yes' ? text.yes : v === 'no' ? text.no : v),
      read: (c) => (c === text.yes ? 'yes' : c === text.no ? 'no' : c),
    };
  if (a.type === 'date') return { write: (v) => writeDay(v, text.dates), read: (c) => readDay(c, text.dates) };
  if (a.type === 'moment' && text.moments !== 'as-is') {
    const own = book.sites.find((s) => s.key === a.facet?.site);
    return {
      write: (v, site) => writeClock(v, (own ?? site).timeZone),
      read: (c) => readClock(c, (own ?? book.sites[0]!).timeZone),
    };
  }
  if (isNumeric(a)) {
    if (a.type === 'money' && text.money === 'currency-places') {
      const own = book.sites.find((s) => s.key === a.facet?.site);
      // Places are filled up, never cut: what has too many arrives as it is, for the market to say so.
      const writeIn = (currency: string) =>
        remember((v) => writeNumber(hasPlaces(v, currency) ? formatMoney(v, currency) : v, text.decimalSign));
      const byCurrency = new Map(book.sites.map(({ currency }) => [currency, writeIn(currency)]));
      return {
        write: (v, site) => byCurrency.get((own ?? site).currency)!(v),
        read: remember((c) => readPlaces(c, text.decimalSign)),
      };
    }
    return text.decimalSign === '.'
      ? asItIs
      : { write: (v) => writeNumber(v, text.decimalSign), read: (c) => readNumberCell(c, text.decimalSign) };
  }
  return asItIs;
}
