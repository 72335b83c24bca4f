import { foldLoosely } from '../../text';
import type { Value } from '../../listing/values';
import { defineCheck } from '../define-check';
import type { Finding } from '../finding';

/** Buyers scan titles for the brand first. */
export const titleForm = defineCheck({
  id: 'title-form',
  level: 'caution',
  docs: {
    title: 'Titles begin with the brand',
    why: 'Buyers look for the brand first, and so does the market.',
    source: 'common practice; asked for by the rulebook',
  },
  messages: {
    brandFirst: {
      title: 'Title does not begin with the brand',
      says: 'The title does not begin with the brand {{brand}}.',
    },
  },
  prepareRow(category, say) {
    const { brand } = category.rulebook.roles;
    const titles = category.rulebook.titles
      .map((t) => t.field)
      .filter((t) => category.byKey.get(t)?.attribute.textRules.includes('brand-first'));
    if (titles.length === 0) return undefined;
    const judge = (title: string, t: Value | undefined, b: Value | undefined, out: Finding[]): void => {
      if (typeof t !== 'string' || typeof b !== 'string' || t === '' || b === '' || t.startsWith(b)) return;
      if (foldLoosely(t).startsWith(foldLoosely(b))) return;
      const rest = t
        .replace(new RegExp(`\\b${b.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\b`, 'i'), ' ')
        .replace(/\s{2,}/g, ' ')
        .trim();
      say(out, 'brandFirst', title, t, { brand: b }, [
        { kind: 'set', field: title, value: `${b} ${rest}`, safe: true },
      ]);
    };
    return ({ values }, _, out) => {
      for (const title of titles) judge(title, values[title], values[brand], out);
    };
  },
});
