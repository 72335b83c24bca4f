import { convertUnit, normaliseNumber, parseMeasure, Exact } from '../../quantity';
import { defineCheck } from '../define-check';

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
  prepare(category, say) {
    const measures = category.attributes.flatMap((a) =>
      a.attribute.units && a.strongest !== 'unused'
        ? [{ key: a.attribute.key, units: a.attribute.units, decimals: a.attribute.decimals ?? 2 }]
        : [],
    );
    if (measures.length === 0) return undefined;
    return (listing, _, out) => {
      for (const m of measures) {
        const value = listing.values[m.key];
        if (typeof value !== 'string' || value === '') continue;
        const space = value.indexOf(' ');
        if (space > 0 && m.units.includes(value.slice(space + 1))) continue;
        const read = parseMeasure(value);
        if (!read) continue; // another check speaks of the type
        const units = m.units.join(' or ');
        if (read.unit === undefined) {
          say(
            out,
            'missing',
            m.key,
            value,
            { units },
            m.units.map((u) => ({ kind: 'set', field: m.key, value: `${read.amount} ${u}`, safe: false })),
          );
          continue;
        }
        if (m.units.includes(read.unit)) {
          say(out, 'convertible', m.key, value, { units, converted: `${read.amount} ${read.unit}` }, [
            { kind: 'set', field: m.key, value: `${read.amount} ${read.unit}`, safe: true },
          ]);
          continue;
        }
        const to = m.units.find((u) => convertUnit({ amount: read.amount, unit: read.unit! }, u));
        if (!to) {
          say(out, 'foreign', m.key, value, { units }, [{ kind: 'fill', field: m.key }]);
          continue;
        }
        const converted = `${normaliseNumber(convertUnit({ amount: read.amount, unit: read.unit }, to)!.toDecimalPlaces(m.decimals, Exact.ROUND_HALF_UP).toFixed())} ${to}`;
        say(out, 'convertible', m.key, value, { units, converted }, [
          { kind: 'set', field: m.key, value: converted, safe: true },
        ]);
      }
    };
  },
});
