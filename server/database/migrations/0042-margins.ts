import type { Knex } from 'knex';
import {
  addParts,
  allowKinds,
  counted,
  heldParts,
  kinds,
  listingParts,
  listingTriggersOf0009,
} from './0009-kept-marks';
import { unplacedOf0016 } from './0016-left-out';
import { countListings, countListingsOf0035, setUpdate } from './0035-lean-counts';

const kindsOf0009 = [...kinds, 'own', 'filled'];
/** Listings by the whole percent of their margin. */
const marginPart = (table: string, sign: string): string =>
  `select market_id, 'margin', floor(margin / 10.0)::int::text, ${sign}1 from ${table} where margin is not null`;
const count = (table: string, sign: string): string =>
  addParts('', `${listingParts(table, sign, table, unplacedOf0016)} union all ${marginPart(table, sign)}`);

/**
 * What the price of a listing leaves after tax, fees and cost, in thousandths of what is taken, kept and counted as it was
 * checked last. Listings get theirs as they are checked anew, each once.
 */
export const margins = {
  up: async (db: Knex): Promise<void> => {
    await db.raw('alter table listings add column margin smallint');
    await db.raw(allowKinds([...kindsOf0009, 'margin']));
    await db.raw(`
      create or replace function tally_listings_insert() returns trigger language plpgsql as $$ begin
        ${count('added', '')} return null; end $$;
      create or replace function tally_listings_delete() returns trigger language plpgsql as $$ begin
        ${count('gone', '-')} return null; end $$;`);
    await db.raw(
      setUpdate(
        'listings',
        countListings(`${counted}, margin`, (table, sign) => [
          ...heldParts(table, sign, unplacedOf0016),
          marginPart(table, sign),
        ]),
      ),
    );
    await db.raw('update markets set revision = revision + 1, checks_from = revision + 1');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(listingTriggersOf0009(unplacedOf0016));
    await db.raw(setUpdate('listings', countListingsOf0035));
    await db.raw(`delete from tallies where kind = 'margin'; ${allowKinds(kindsOf0009)}
      alter table listings drop column margin`);
  },
};
