import { convertUnit, normaliseNumber, parseMeasure, Exact } from '../../quantity';
import { defineCheck } from '../define-check';
import type { Remedy } from '../finding';

const roundTo = (n: Exact, decimals: number): string =>
  normaliseNumber(n.toDecimalPlaces(decimals, Exact.ROUND_HALF_UP).toFixed());

/** A size in the wrong unit is a parcel ten times too large. */
export const unitNotAccepted = defineCheck({
  id: 'unit-not-accepted',
  level: 'blocker',
  docs: {
    title: 'Measures are in an accepted unit',
    why: 'The market takes only its own units.',
    source: 'SI; international yard and pound agreement of 1959 for conversion',
  },
  messages: {
    convertible: '{{field}} is {{value}}; {{market}} takes {{units}}. That is {{converted}}.',
    foreign: '{{field}} is {{value}}; {{market}} takes {{units}}.',
    missing: '{{field}} is {{value}} without a unit; {{market}} takes {{units}}.',
  },
  prepareCells(_, say) {
    return ({ attribute, strongest }) => {
      const { key, units: accepted, decimals = 2 } = attribute;
      if (!accepted || strongest === 'unused') return undefined;
      const units = accepted.join(' or ');
      const set = (value: string, safe: boolean): Remedy => ({ kind: 'set', field: key, value, safe });
      return (value, _listing, out) => {
        if (typeof value !== 'string') return;
        const space = value.indexOf(' ');
        if (space > 0 && accepted.includes(value.slice(space + 1))) return;
        const read = parseMeasure(value);
        if (!read) return; // another check speaks of the type
        const { amount, unit } = read;
        if (unit === undefined) {
          say(
            out,
            'missing',
            key,
            value,
            { units },
            accepted.map((u) => set(`${amount} ${u}`, false)),
          );
          return;
        }
        const to = accepted.includes(unit) ? unit : accepted.find((u) => convertUnit({ amount, unit }, u));
        if (to === undefined) {
          say(out, 'foreign', key, value, { units }, [{ kind: 'fill', field: key }]);
          return;
        }
        const inUnit = to === unit ? amount : roundTo(convertUnit({ amount, unit }, to)!, decimals);
        const converted = `${inUnit} ${to}`;
        say(out, 'convertible', key, value, { units, converted }, [set(converted, true)]);
      };
    };
  },
});
