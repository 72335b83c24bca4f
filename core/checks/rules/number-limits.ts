import { canonicalNumber, convertUnit, countDecimals, exact, Exact, getMinorUnits, parseMeasure } from '../../quantity';
import { defineCheck } from '../define-check';

const leading = /^-?\d+(?:\.\d+)?/;

/** Numbers outside the market's range are refused; more decimals than it stores are cut or refused. */
export const numberLimits = defineCheck({
  id: 'number-limits',
  level: 'blocker',
  docs: {
    title: 'Numbers are in range',
    why: 'A number out of range is refused, or worse, believed.',
    source: 'ranges from the rulebook; money decimals from ISO 4217',
  },
  messages: {
    under: '{{field}} is {{value}}; {{market}} takes nothing under {{min}}.',
    over: '{{field}} is {{value}}; {{market}} takes nothing over {{max}}.',
    decimals: '{{field}} is {{value}}; {{market}} takes {{decimals}} places after the point.',
  },
  prepare(category, say) {
    const currency = category.rulebook.market.currency;
    const limited = category.attributes
      .filter((a) => a.strongest !== 'unused')
      .flatMap(({ attribute: a }) => {
        const decimals = a.decimals ?? (a.type === 'money' ? getMinorUnits(currency) : undefined);
        const isNumber = a.type === 'integer' || a.type === 'decimal' || a.type === 'money' || a.type === 'measure';
        return isNumber && (a.min !== undefined || a.max !== undefined || decimals !== undefined || a.type === 'money')
          ? [
              {
                key: a.key,
                min: a.min ?? (a.type === 'money' ? '0' : undefined),
                max: a.max,
                decimals,
                isMeasure: a.type === 'measure',
                unit: a.units?.[0] ?? '',
              },
            ]
          : [];
      });
    return (listing, _, out) => {
      for (const l of limited) {
        const value = listing.values[l.key];
        if (typeof value !== 'string' || value === '') continue;
        const number = l.isMeasure ? leading.exec(value)?.[0] : value;
        if (number === undefined || !canonicalNumber.test(number)) continue; // another check speaks of the type
        // Bounds of a measure are in its first unit. Binary comparison is enough far from a bound; exact comparison decides near it.
        const bounded = l.isMeasure && l.unit !== '' && !value.endsWith(` ${l.unit}`) ? inUnit(value, l.unit) : number;
        if (bounded !== undefined) {
          const near = Number(bounded),
            unit = l.unit ? ` ${l.unit}` : '';
          if (l.min !== undefined && near <= Number(l.min) + 1 && exact(bounded).lt(l.min))
            say(out, 'under', l.key, value, { min: l.min + unit }, [{ kind: 'fill', field: l.key }]);
          if (l.max !== undefined && near >= Number(l.max) - 1 && exact(bounded).gt(l.max))
            say(out, 'over', l.key, value, { max: l.max + unit }, [{ kind: 'fill', field: l.key }]);
        }
        if (l.decimals !== undefined && countDecimals(number) > l.decimals) {
          const rounded = exact(number).toDecimalPlaces(l.decimals, Exact.ROUND_HALF_UP).toFixed(l.decimals);
          say(out, 'decimals', l.key, value, { decimals: l.decimals }, [
            { kind: 'set', field: l.key, value: value.replace(number, rounded), safe: exact(number).eq(rounded) },
          ]);
        }
      }
    };
  },
});

/** The amount in a measure's first unit; undefined where another check will speak of the unit. */
function inUnit(value: string, unit: string): string | undefined {
  const read = parseMeasure(value);
  return read?.unit === undefined
    ? read?.amount
    : convertUnit({ amount: read.amount, unit: read.unit }, unit)?.toFixed();
}
