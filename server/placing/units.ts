// What is placed as one on a market: an item by itself, or a family with its variants, as far as it tells of its category.
import type { ItemTold } from '@basileus/core/suggest';
import { type Db, rowsOf } from '../database';

/** Listings for which a category is still to be chosen. */
export const waitsSql = `l.category is null and l.market_state <> 'left out'`;

export interface Unit {
  /** The product; of a family its own row. */
  id: number;
  titles: string[];
  brand: string | null;
  own: string | null;
  /** Where its listings on this market are placed. */
  leaves: string[];
  waiting: number;
  /** Where it stands on other markets, each as the market's key and the leaf. */
  elsewhere: string[];
}

/** The market's key and the leaf of a place on another market. */
export const readPlace = (place: string): { market: string; leaf: string } => {
  const at = place.indexOf('/');
  return { market: place.slice(0, at), leaf: place.slice(at + 1) };
};

/** A page of the units that a market has listings of, by their number. */
export const loadUnits = (db: Db, market: number, after: number, limit: number): Promise<Unit[]> =>
  rowsOf<Unit>(
    db,
    `select r.id,
        array_agg(p.title order by p.id) as titles,
        (array_agg(p.brand order by p.id) filter (where p.brand is not null))[1] as brand,
        (array_agg(p.category order by p.id) filter (where p.category is not null))[1] as own,
        coalesce(array_agg(distinct l.category) filter (where l.category is not null), '{}') as leaves,
        count(*) filter (where ${waitsSql})::int as waiting,
        coalesce(e.elsewhere, '{}') as elsewhere
      from (select id from products where parent_id is null and id > ? order by id limit ?) r
      cross join lateral (
        select id, title, brand, category from products where id = r.id
        union all select id, title, brand, category from products where parent_id = r.id) p
      join listings l on l.product_id = p.id and l.market_id = ?
      left join lateral (
        select array_agg(m.key || '/' || o.category order by m.key) as elsewhere
          from listings o join markets m on m.id = o.market_id
          where o.product_id = r.id and o.market_id <> ? and o.category is not null) e on true
      group by r.id, e.elsewhere
      order by r.id`,
    [after, limit, market, market],
  );

export const toTold = (u: Unit): ItemTold => ({
  titles: u.titles,
  brand: u.brand ?? '',
  own: u.own ?? '',
  elsewhere: u.elsewhere,
});
