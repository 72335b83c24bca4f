import { convertUnit, countDecimals, exact, Exact, getMinorUnits, parseMeasure, scanNumber } from '../../quantity';
import { defineCheck } from '../define-check';
import type { Finding } from '../finding';

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
    under: {
      title: '{{field}} is under the least taken',
      says: '{{field}} is {{value}}; {{market}} takes nothing under {{min}}.',
    },
    over: {
      title: '{{field}} is over the most taken',
      says: '{{field}} is {{value}}; {{market}} takes nothing over {{max}}.',
    },
    step: {
      title: '{{field}} is between two steps',
      says: '{{field}} is {{value}}; {{market}} takes steps of {{step}}.',
    },
    decimals: {
      title: '{{field}} has too many decimals',
      says: '{{field}} is {{value}}; {{market}} takes {{decimals|decimal|decimals}} at the most.',
    },
  },
  prepareValues(category, say) {
    const { sites } = category.rulebook;
    return ({ attribute: a, strongest }) => {
      const isMoney = a.type === 'money',
        isMeasure = a.type === 'measure';
      if (strongest === 'unused' || !(isMoney || isMeasure || a.type === 'integer' || a.type === 'decimal'))
        return undefined;
      const { key, step } = a;
      const { currency } = sites.find((s) => s.key === a.facet?.site) ?? sites[0]!;
      const min = a.min ?? (isMoney ? '0' : undefined),
        max = a.max;
      const decimals = a.decimals ?? (isMoney ? getMinorUnits(currency) : undefined);
      if (min === undefined && max === undefined && decimals === undefined && step === undefined) return undefined;
      // Binary comparison is enough far from a bound; within one of it the exact comparison decides.
      const nearMin = min === undefined ? -Infinity : Number(min) + 1,
        nearMax = max === undefined ? Infinity : Number(max) - 1;
      const unit = a.units?.[0] ?? '';
      const ending = unit && ` ${unit}`;
      const judgeStep = (value: string, number: string, out: Finding[]): void => {
        const steps = exact(number).dividedBy(step!);
        if (steps.isInteger()) return;
        // Up, so that no floor is broken by it.
        const raised = steps.ceil().times(step!).toFixed(countDecimals(step!));
        say(out, 'step', key, value, { step: step! }, [
          { kind: 'set', field: key, value: value.replace(number, raised), safe: false },
        ]);
      };
      return (value, out) => {
        if (typeof value !== 'string') return;
        const near = scanNumber(value, isMeasure);
        if (Number.isNaN(near)) return; // another check speaks of the type
        const space = isMeasure ? value.indexOf(' ') : -1;
        const number = space < 0 ? value : value.slice(0, space);
        // Bounds of a measure are in its first unit; what is converted is always compared exactly.
        const isConverted = unit !== '' && space > 0 && !value.endsWith(ending);
        if (isConverted || near <= nearMin || near >= nearMax) {
          const bounded = isConverted ? inUnit(value, unit) : number;
          if (bounded !== undefined && min !== undefined && exact(bounded).lt(min))
            say(out, 'under', key, value, { min: min + ending }, [{ kind: 'fill', field: key }]);
          if (bounded !== undefined && max !== undefined && exact(bounded).gt(max))
            say(out, 'over', key, value, { max: max + ending }, [{ kind: 'fill', field: key }]);
        }
        // A measure in a unit that is not taken is converted first; its places are judged in the market's unit.
        const isForeign = space > 0 && a.units !== undefined && !a.units.includes(value.slice(space + 1));
        if (decimals !== undefined && !isForeign && countDecimals(number) > decimals) {
          const rounded = exact(number).toDecimalPlaces(decimals, Exact.ROUND_HALF_UP).toFixed(decimals);
          say(out, 'decimals', key, value, { decimals }, [
            { kind: 'set', field: key, value: value.replace(number, rounded), safe: exact(number).eq(rounded) },
          ]);
        } else if (step !== undefined && !isForeign) judgeStep(value, number, out);
      };
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
