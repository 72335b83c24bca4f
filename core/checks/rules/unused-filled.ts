import { isFilled } from '../../listing/values';
import { defineCheck } from '../define-check';

/** Filling a field that the category leaves empty is a mistake of its own; some markets refuse the row. */
export const unusedFilled = defineCheck({
  id: 'unused-filled',
  level: 'blocker',
  docs: {
    title: 'Unused fields are empty',
    why: 'A value in a column that the category does not use makes the market refuse the row.',
    source: 'common practice',
  },
  messages: { filled: '{{field}} holds “{{value}}”, but {{category}} does not use this field; clear it.' },
  prepare(category, say) {
    // Looked up by the keys that a row has, which are far fewer than the attributes there are.
    const suspects = new Map(
      category.attributes
        .filter((a) => a.strongest !== 'must' || a.conditions.length > 0 || a.attribute.rows !== 'all')
        .map((a) => [a.attribute.key, a.levelFor] as const),
    );
    return (listing, _, out) => {
      const values = listing.values;
      for (const key in values) {
        const levelFor = suspects.get(key);
        if (levelFor && levelFor(values, listing.role) === 'unused' && isFilled(values[key]))
          say(out, 'filled', key, values[key], { category: category.label }, [
            { kind: 'clear', field: key, safe: true },
          ]);
      }
    };
  },
});
