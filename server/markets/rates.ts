// What one unit of the house currency buys of others: said by people, with the day.
import { type Db, rowsOf } from '../database';

export interface Rate {
  currency: string;
  /** Canonical number. */
  rate: string;
  by_whom: string;
  at: Date;
}

export const loadRates = (db: Db): Promise<Rate[]> =>
  rowsOf<Rate>(db, 'select currency, trim_scale(rate)::text as rate, by_whom, at from rates order by currency');

export const storeRate = async (db: Db, currency: string, rate: string, actor: string): Promise<void> => {
  await db.raw(
    `insert into rates (currency, rate, by_whom) values (?, ?, ?)
      on conflict (currency) do update set rate = excluded.rate, by_whom = excluded.by_whom, at = now()`,
    [currency, rate, actor],
  );
};
