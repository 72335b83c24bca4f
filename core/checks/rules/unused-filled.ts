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
  messages: {
    filled: {
      title: '{{field}} is filled but not used',
      says: '{{field}} holds “{{value}}”, but {{category}} does not use this field; clear it.',
    },
  },
  prepareCells(category, say) {
    return (a) => {
      const { key } = a.attribute;
      if (!a.canBeUnused) return undefined;
      return (value, listing, out) => {
        if (a.levelFor(listing.values, listing.role) === 'unused' && isFilled(value))
          say(out, 'filled', key, value, { category: category.label }, [{ kind: 'clear', field: key, safe: true }]);
      };
    };
  },
});
