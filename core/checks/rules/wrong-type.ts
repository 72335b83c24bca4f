import {
  commaLocale,
  isCalendarDay,
  judgeMoment,
  pointLocale,
  readNumber,
  scanNumber,
  toEdgeOfDay,
  toMoment,
} from '../../quantity';
import { findMomentTerms } from '../../rulebook';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

const measure = /^\s*-?\d+(\.\d+)?(\s[^]*)?$/;
const yesWords = /^(y|yes|true|1)$/i,
  noWords = /^(n|no|false|0)$/i;

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
    moment: {
      title: '{{field}} is not a moment',
      says: '{{field}} holds “{{value}}”; write a day, a time and the zone, such as {{example}}.',
    },
    momentWithoutZone: {
      title: '{{field}} names no time zone',
      says: '{{field}} holds “{{value}}”, which is another moment in every time zone; in that of {{market}} it is {{example}}.',
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
  prepareValues(category, say) {
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
          case 'moment':
            judgeAsMoment(value, out);
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
      const { timeZone, edge } = findMomentTerms(category.rulebook, attribute);
      const judgeAsMoment = (value: string, out: Finding[]): void => {
        const is = judgeMoment(value);
        if (is === 'without-zone') {
          const there = toMoment(value, timeZone);
          say(out, 'momentWithoutZone', key, value, { example: there }, set(there, false));
        } else if (is === 'none' && isCalendarDay(value)) {
          const there = toEdgeOfDay(value, timeZone, edge);
          say(out, 'momentWithoutZone', key, value, { example: there }, set(there, false));
        } else if (is === 'none')
          say(out, 'moment', key, value, { example: toEdgeOfDay('2026-11-27', timeZone, edge) }, fill);
      };
      // Read as each of the two ways of writing numbers: a remedy only where one of them alone fits.
      const reread = (value: string, isWhole: boolean): Remedy[] => {
        const point = readNumber(value, pointLocale),
          comma = readNumber(value, commaLocale);
        const only = point.ok !== comma.ok ? (point.ok ? point : comma) : undefined;
        return only?.ok && (!isWhole || !only.number.includes('.')) ? set(only.number, false) : fill;
      };
      const isText = !['integer', 'decimal', 'money', 'date', 'moment', 'yes-no', 'measure'].includes(type);
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
