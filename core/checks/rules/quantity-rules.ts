import { defineCheck } from '../define-check';

/** Markets cap the quantity they believe. */
export const quantityRules = defineCheck({
  id: 'quantity-rules',
  level: 'blocker',
  docs: {
    title: 'Quantity is within the cap',
    why: 'A quantity over the cap is refused.',
    source: 'cap from the rulebook',
  },
  messages: {
    overCap: {
      title: 'Quantity is over the cap',
      says: 'The quantity {{value}} is over {{cap}}, the most that {{market}} takes.',
    },
    low: {
      level: 'tip',
      title: 'Little left to sell',
      says: 'Only {{value}} to sell; {{market}} advises at least {{least}}.',
    },
  },
  prepareRow(category, say) {
    const { roles, offer } = category.rulebook;
    return (listing, _, out) => {
      const quantity = listing.values[roles.quantity];
      if (typeof quantity !== 'string' || !/^\d+$/.test(quantity)) return;
      const n = Number(quantity);
      if (n > offer.quantityCap)
        say(out, 'overCap', roles.quantity, quantity, { cap: offer.quantityCap }, [
          { kind: 'set', field: roles.quantity, value: String(offer.quantityCap), safe: true },
        ]);
      else if (n > 0 && n < offer.minimumAdvised)
        say(out, 'low', roles.quantity, quantity, { least: offer.minimumAdvised });
    };
  },
});
