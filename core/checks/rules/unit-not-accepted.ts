import { fitUnit, parseMeasure, roundToPlaces } from '../../quantity';
import { defineCheck } from '../define-check';
import type { Remedy } from '../finding';

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
    convertible: {
      title: '{{field}} is in another unit',
      says: '{{field}} is {{value}}; {{market}} takes {{units:or}}. That is {{converted}}.',
    },
    foreign: {
      title: '{{field}} is in a unit of another kind',
      says: '{{field}} is {{value}}; {{market}} takes {{units:or}}.',
    },
    missing: {
      title: '{{field}} has no unit',
      says: '{{field}} is {{value}} without a unit; {{market}} takes {{units:or}}.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute, strongest }) => {
      const { key, units: accepted, decimals } = attribute;
      if (!accepted || strongest === 'unused') return undefined;
      const units = accepted;
      const set = (value: string, safe: boolean): Remedy => ({ kind: 'set', field: key, value, safe });
      return (value, out) => {
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
        const fit = fitUnit({ amount, unit }, accepted);
        if (fit === undefined) {
          say(out, 'foreign', key, value, { units }, [{ kind: 'fill', field: key }]);
          return;
        }
        const rounded = decimals === undefined ? fit.amount : roundToPlaces(fit.amount, decimals);
        const converted = `${rounded} ${fit.unit}`;
        say(out, 'convertible', key, value, { units, converted }, [set(converted, rounded === fit.amount)]);
      };
    };
  },
});
