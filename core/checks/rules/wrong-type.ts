import { commaLocale, pointLocale, readNumber, scanNumber } from '../../quantity';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

const isoDate = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;
const measure = /^\s*-?\d+(\.\d+)?(\s[^]*)?$/;
const yesWords = /^(y|yes|true|1)$/i,
  noWords = /^(n|no|false|0)$/i;

/** True for a calendar day that exists. */
export function isCalendarDay(text: string): boolean {
  if (!isoDate.test(text)) return false;
  const [y, m, d] = text.split('-').map(Number) as [number, number, number];
  const leap = (y % 4 === 0 && y % 100 !== 0) || y % 400 === 0;
  return d <= [31, leap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][m - 1]!;
}

/** A value of the wrong type cannot be written into the file as the market reads it. */
export const wrongType = defineCheck({
  id: 'wrong-type',
  level: 'blocker',
  docs: {
    title: 'Values have their type',
    why: 'A value that the market cannot read stops the row.',
    source: 'ISO 8601 for dates; the types from the rulebook',
  },
  messages: {
    number: {
      title: '{{field}} is not a number',
      says: '{{field}} holds “{{value}}”, which is not a number; write digits with a point, such as 12.50.',
    },
    whole: {
      title: '{{field}} is not a whole number',
      says: '{{field}} holds “{{value}}”; {{market}} takes whole numbers here.',
    },
    date: {
      title: '{{field}} is not a day',
      says: '{{field}} holds “{{value}}”; write a day that exists as year-month-day, such as 2026-11-27.',
    },
    yesNo: { title: '{{field}} is neither yes nor no', says: '{{field}} holds “{{value}}”; choose yes or no.' },
    measure: {
      title: '{{field}} is not a measure',
      says: '{{field}} holds “{{value}}”; write a number and its unit, such as “24 {{unit}}”.',
    },
    single: {
      title: '{{field}} holds several values',
      says: '{{field}} holds {{count}} values; {{market}} takes one.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute, strongest }) => {
      const { key, type } = attribute;
      if (strongest === 'unused' || type === 'several-of' || type === 'links' || type === 'repeated-text')
        return undefined;
      const fill: Remedy[] = [{ kind: 'fill', field: key }];
      const set = (value: string, safe: boolean): Remedy[] => [{ kind: 'set', field: key, value, safe }];
      const judge = (value: string, out: Finding[]): void => {
        switch (type) {
          case 'integer':
            if (Number.isNaN(scanNumber(value))) say(out, 'number', key, value, {}, reread(value, true));
            else if (value.includes('.'))
              say(out, 'whole', key, value, {}, /\.0+$/.test(value) ? set(value.replace(/\.0+$/, ''), true) : fill);
            return;
          case 'decimal':
          case 'money':
            if (Number.isNaN(scanNumber(value))) say(out, 'number', key, value, {}, reread(value, false));
            return;
          case 'date':
            if (!isCalendarDay(value)) say(out, 'date', key, value, {}, fill);
            return;
          case 'yes-no':
            if (value !== 'yes' && value !== 'no') say(out, 'yesNo', key, value, {}, toYesOrNo(key, value));
            return;
          case 'measure':
            if (Number.isNaN(scanNumber(value, true)) && !measure.test(value))
              say(out, 'measure', key, value, { unit: attribute.units?.[0] ?? '' }, fill);
            return;
          default:
        }
      };
      // Read as each of the two ways of writing numbers: a remedy only where one of them alone fits.
      const reread = (value: string, isWhole: boolean): Remedy[] => {
        const point = readNumber(value, pointLocale),
          comma = readNumber(value, commaLocale);
        const only = point.ok !== comma.ok ? (point.ok ? point : comma) : undefined;
        return only?.ok && (!isWhole || !only.number.includes('.')) ? set(only.number, false) : fill;
      };
      const isText = !['integer', 'decimal', 'money', 'date', 'yes-no', 'measure'].includes(type);
      return (value, out) => {
        if (typeof value === 'string') {
          if (!isText) judge(value, out);
        } else if (value.length > 1) say(out, 'single', key, value, { count: value.length }, set(value[0]!, false));
      };
    };
  },
});

/** What a spreadsheet or a person wrote for yes and no; anything else is for a person to choose. */
function toYesOrNo(field: string, value: string): Remedy[] {
  if (yesWords.test(value)) return [{ kind: 'set', field, value: 'yes', safe: true }];
  if (noWords.test(value)) return [{ kind: 'set', field, value: 'no', safe: true }];
  return [{ kind: 'choose', field }];
}
