import { type Db, rowsOf } from '../database';

/** Names kept in mind of one field; of more, most are no names that items share. */
const mostNames = 20_000;

/** The values that items have now in each of the fields, for telling what is new in a file. */
export async function loadKnownNames(db: Db, fields: readonly string[]): Promise<Map<string, string[]>> {
  const known = new Map<string, string[]>();
  for (const field of fields) {
    const isFact = field.startsWith('fact.');
    const sql = isFact
      ? `select facts ->> ? as v, count(*) as n from products where facts ->> ? is not null group by 1 order by 2 desc limit ?`
      : `select ${field === 'brand' ? 'brand' : 'category'} as v, count(*) as n from products
          where ${field === 'brand' ? 'brand' : 'category'} is not null group by 1 order by 2 desc limit ?`;
    const bindings = isFact ? [field.slice(5), field.slice(5), mostNames] : [mostNames];
    known.set(
      field,
      (await rowsOf<{ v: string }>(db, sql, bindings)).map((r) => r.v),
    );
  }
  return known;
}
