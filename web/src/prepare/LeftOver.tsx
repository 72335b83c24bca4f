import type { ListingRow } from '@basileus/contract';
import { computeMargin, computeUnitPrice, convertCost, findFees, prepareTaxRate } from '@basileus/core/pricing';
import { canonicalNumber, Exact, formatMoney } from '@basileus/core/quantity';
import type { Rulebook } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { ratesQuery } from '../connection/queries';
import { tell } from '../ui/tell';

/** What one kilogram or litre of it costs, where the market shows that beside a price of its own. */
export function UnitPrice({ listing, field, rulebook }: { listing: ListingRow; field: string; rulebook: Rulebook }) {
  const offer = rulebook.offers.find((o) => o.price === field || o.salePrice === field);
  const price = listing.values[field];
  const said = listing.values[rulebook.unitPrice?.attribute ?? ''];
  const unit = typeof said === 'string' ? rulebook.unitPrice?.units[said] : undefined;
  if (!offer || !unit || typeof price !== 'string' || !canonicalNumber.test(price)) return null;
  const content = listing.values[unit.of];
  const amount = computeUnitPrice(price, typeof content === 'string' ? content : undefined, unit.per);
  return (
    amount && (
      <span className="quiet">
        {tell`${formatMoney(amount, offer.site.currency)} ${offer.site.currency} per ${unit.per}.`}{' '}
      </span>
    )
  );
}

/** Percent to a tenth, rounded down; dividing may come out under it by the last of forty digits. */
const toTenths = (margin: Exact): string => margin.times(100).plus('1e-25').toFixed(1, Exact.ROUND_FLOOR);

/** What is left of a price after tax and the market's cut, at its site; nothing for a field that is no price of ours. */
export function LeftOver({ listing, field, rulebook }: { listing: ListingRow; field: string; rulebook: Rulebook }) {
  const rates = useQuery(ratesQuery).data;
  const offer = rulebook.offers.find((o) => o.price === field || o.salePrice === field);
  const price = listing.values[field];
  if (!offer || !rates || listing.category === null || listing.cost === null) return null;
  if (typeof price !== 'string' || !canonicalNumber.test(price) || Number(price) === 0) return null;
  const { site } = offer;
  const known = Object.fromEntries(rates.rows.flatMap((r) => (r.rate === null ? [] : [[r.currency, r.rate]])));
  const cost = convertCost(listing.cost, site.currency, known);
  if (cost === undefined) return null;
  const fees = findFees(rulebook, listing.category, '0', site);
  const { profit, margin } = computeMargin({ price, cost, ...fees, taxRate: prepareTaxRate(site)(listing.values) });
  return (
    <span className={profit.lt(0) ? 'text-error' : 'quiet'}>
      {tell`Leaves ${formatMoney(profit, site.currency)} ${site.currency}, ${toTenths(margin)} %, after tax, fees and a cost of ${formatMoney(cost, site.currency)}.`}
    </span>
  );
}
