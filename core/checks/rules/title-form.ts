import { foldLoosely } from '../../text';
import { defineCheck } from '../define-check';

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
    const { title, brand } = category.rulebook.roles;
    if (!category.byKey.get(title)?.attribute.textRules.includes('brand-first')) return undefined;
    return (listing, _, out) => {
      const t = listing.values[title],
        b = listing.values[brand];
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
  },
});
