import type { Knex } from 'knex';
import { listingTriggersOf0009 } from './0009-kept-marks';

const stateBy = (kept: string): string => `
create or replace function listing_state(in_flight int, market_state text, refusal_open boolean, category text, blockers int) returns text
  language sql immutable as $$ select case when in_flight > 0 then 'sent'
    when market_state in (${kept}) then market_state
    when refusal_open then 'refused' when category is null then 'draft' when blockers > 0 then 'blocked' else 'ready' end $$;`;
const allow = (states: string): string =>
  `alter table listings drop constraint listings_market_state_check, add constraint listings_market_state_check check (market_state in (${states}));`;
const known = `'none', 'in review', 'live', 'refused', 'withdrawn'`,
  kept = `'live', 'in review', 'withdrawn'`;

/** Listings for which a category is still to be chosen. */
export const unplacedOf0016 = `category is null and market_state <> 'left out'`;

/** What a person does not want on a market is left out there: nothing is asked of it, and no category is chosen for it. */
export const leftOut = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(allow(`${known}, 'left out'`));
    await db.raw(stateBy(`${kept}, 'left out'`));
    await db.raw(listingTriggersOf0009(unplacedOf0016));
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`update listings set market_state = 'none' where market_state = 'left out'`);
    await db.raw(listingTriggersOf0009());
    await db.raw(stateBy(kept));
    await db.raw(allow(known));
  },
};
