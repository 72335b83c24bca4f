import { canonicalNumber, commaLocale, pointLocale, readNumber } from '../../quantity';
import type { CompiledAttribute } from '../../rulebook/compile';
import { defineCheck } from '../define-check';

const isoDate = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;
const measure = /^-?\d+(\.\d+)?(\s+\S.*)?$/;
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
    why: 'A word where a number belongs stops the row.',
    source: 'ISO 8601 for dates; the types from the rulebook',
  },
  messages: {
    number: '{{field}} holds “{{value}}”, which is not a number; write digits with a point, such as 12.50.',
    whole: '{{field}} holds “{{value}}”; {{market}} takes whole numbers here.',
    date: '{{field}} holds “{{value}}”; write a day that exists as year-month-day, such as 2026-11-27.',
    yesNo: '{{field}} holds “{{value}}”; choose yes or no.',
    measure: '{{field}} holds “{{value}}”; write a number and its unit, such as “24 {{unit}}”.',
    single: '{{field}} holds {{count}} values; {{market}} takes one.',
  },
  prepare(category, say) {
    const judges = new Map(
      category.attributes
        .filter((a) => a.strongest !== 'unused')
        .flatMap((a) => {
          const j = judge(a);
          return j ? [[a.attribute.key, j] as const] : [];
        }),
    );
    const reread = (key: string, value: string, whole: boolean) => {
      const point = readNumber(value, pointLocale),
        comma = readNumber(value, commaLocale);
      const only = point.ok !== comma.ok ? (point.ok ? point : comma) : undefined;
      return only?.ok && (!whole || !only.number.includes('.'))
        ? [{ kind: 'set' as const, field: key, value: only.number, safe: false }]
        : [{ kind: 'fill' as const, field: key }];
    };
    return (listing, _, out) => {
      for (const key in listing.values) {
        const value = listing.values[key]!;
        const j = judges.get(key);
        if (j === undefined || value === '') continue;
        if (typeof value !== 'string') {
          if (value.length > 1)
            say(out, 'single', key, value, { count: value.length }, [
              { kind: 'set', field: key, value: value[0]!, safe: false },
            ]);
          continue;
        }
        switch (j.kind) {
          case 'number':
            if (!canonicalNumber.test(value)) say(out, 'number', key, value, {}, reread(key, value, false));
            break;
          case 'whole':
            if (!canonicalNumber.test(value)) say(out, 'number', key, value, {}, reread(key, value, true));
            else if (value.includes('.'))
              say(
                out,
                'whole',
                key,
                value,
                {},
                /\.0+$/.test(value)
                  ? [{ kind: 'set', field: key, value: value.replace(/\.0+$/, ''), safe: true }]
                  : [{ kind: 'fill', field: key }],
              );
            break;
          case 'date':
            if (!isCalendarDay(value)) say(out, 'date', key, value, {}, [{ kind: 'fill', field: key }]);
            break;
          case 'yes-no':
            if (value !== 'yes' && value !== 'no')
              say(
                out,
                'yesNo',
                key,
                value,
                {},
                yesWords.test(value) || noWords.test(value)
                  ? [{ kind: 'set', field: key, value: yesWords.test(value) ? 'yes' : 'no', safe: true }]
                  : [
                      {
                        kind: 'choose',
                        field: key,
                        options: [
                          { code: 'yes', label: 'yes' },
                          { code: 'no', label: 'no' },
                        ],
                      },
                    ],
              );
            break;
          case 'measure':
            if (!measure.test(value.trim()))
              say(out, 'measure', key, value, { unit: j.unit }, [{ kind: 'fill', field: key }]);
            break;
          case 'text':
            break;
        }
      }
    };
  },
});

function judge({
  attribute: a,
}: CompiledAttribute):
  { kind: 'number' | 'whole' | 'date' | 'yes-no' | 'text' } | { kind: 'measure'; unit: string } | undefined {
  switch (a.type) {
    case 'integer':
      return { kind: 'whole' };
    case 'decimal':
    case 'money':
      return { kind: 'number' };
    case 'date':
      return { kind: 'date' };
    case 'yes-no':
      return { kind: 'yes-no' };
    case 'measure':
      return { kind: 'measure', unit: a.units?.[0] ?? '' };
    case 'several-of':
    case 'links':
    case 'repeated-text':
      return undefined;
    default:
      return { kind: 'text' };
  }
}
