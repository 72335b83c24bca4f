import { computeUnitPrice } from '../../pricing/unit-price';
import { isFilled, type Value, type Values } from '../../listing/values';
import { defineCheck } from '../define-check';

/** A price per kilogram that cannot be worked out is not shown, and a package of food without one is not to be sold. */
export const unitPrice = defineCheck({
  id: 'unit-price',
  level: 'caution',
  docs: {
    title: 'The price per unit can be told',
    why: 'Buyers are shown what a kilogram or a litre costs; the market works it out from what the package holds.',
    source: 'Directive 98/6/EC, article 3; units and contents from the rulebook',
  },
  messages: {
    noContent: {
      title: 'There is nothing to work out the price per unit from',
      says: 'The price per {{per}} cannot be worked out: {{of}} is empty.',
    },
    otherUnit: {
      title: 'The price per unit is of another unit than what is in the package',
      says: '{{field}} says per {{per}}, but {{of}} is empty; {{there}} is given, which makes a price per {{other}}.',
    },
  },
  prepareRow(category, say) {
    const terms = category.rulebook.unitPrice;
    if (!terms || !category.byKey.has(terms.attribute)) return undefined;
    const { attribute, units } = terms;
    const labelOf = (key: string): string => category.byKey.get(key)?.attribute.label ?? key;
    return ({ values, role }, _, out) => {
      const code = values[attribute];
      const said = typeof code === 'string' ? units[code] : undefined;
      if (role === 'parent' || !said || isTold(values, said)) return;
      const other = Object.entries(units).find(
        ([key, u]) => key !== code && u.per !== 'piece' && isFilled(values[u.of]) && isTold(values, u),
      );
      if (other)
        say(
          out,
          'otherUnit',
          attribute,
          code,
          { per: said.per, of: labelOf(said.of), there: labelOf(other[1].of), other: other[1].per },
          [{ kind: 'set', field: attribute, value: other[0], safe: false }],
        );
      else
        say(out, 'noContent', said.of, values[said.of], { per: said.per, of: labelOf(said.of) }, [
          { kind: 'fill', field: said.of },
        ]);
    };
  },
});

type Unit = { of: string; per: 'kg' | 'l' | 'm' | 'piece' };
const textOf = (value: Value | undefined): string | undefined => (typeof value === 'string' ? value : undefined);
/** True where a price of one can be worked out from what the package holds. */
const isTold = (values: Values, { of, per }: Unit): boolean =>
  computeUnitPrice('1', textOf(values[of]), per) !== undefined;
