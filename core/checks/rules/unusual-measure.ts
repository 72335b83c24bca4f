import { judgeMeasure } from '../../quantity';
import { defineCheck } from '../define-check';

/** A teaspoon of 24 kg is a unit that slipped; what the same goods measure otherwise tells. */
export const unusualMeasure = defineCheck({
  id: 'unusual-measure',
  level: 'caution',
  docs: {
    title: 'Measures are like those of the same goods',
    why: 'A measure far from what the other items of its category have is nearly always in the wrong unit, or has its point in the wrong place.',
    source: 'practice: thirty times over or under the middle of the category’s items',
  },
  messages: {
    tooMuch: {
      title: '{{field}} is far more than others of its kind have',
      says: '{{field}} is {{value}}, {{times}} times the {{usual}} that {{of}} usually have.',
    },
    tooLittle: {
      title: '{{field}} is far less than others of its kind have',
      says: '{{field}} is {{value}}; {{of}} usually have {{usual}}, {{times}} times as much.',
    },
  },
  prepareRow(category, say) {
    const measures = category.attributes
      .filter((a) => a.attribute.type === 'measure' && a.strongest !== 'unused')
      .map(({ attribute }) => ({ key: attribute.key, units: attribute.units ?? [] }));
    if (measures.length === 0) return undefined;
    return ({ values }, { usual }, out) => {
      if (usual === undefined) return;
      for (const { key, units } of measures) {
        const value = values[key],
          known = usual.measures[key];
        if (known === undefined || typeof value !== 'string') continue;
        const far = judgeMeasure(value, known, units);
        if (!far) continue;
        say(
          out,
          far.isOver ? 'tooMuch' : 'tooLittle',
          key,
          value,
          { usual: `${known.amount} ${known.unit}`, times: Math.round(far.times), of: usual.of },
          far.meant
            ? [{ kind: 'set', field: key, value: `${far.meant.amount} ${far.meant.unit}`, safe: false }]
            : [{ kind: 'fill', field: key }],
        );
      }
    };
  },
});
