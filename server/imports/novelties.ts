// What is new in a file beside what is there, and what somebody else may mean by it.
import { createReader, listSourceFields } from '@basileus/core/listing';
import type { Novelty } from '@basileus/core/sheet';
import { type Db, rowsOf } from '../database';
import { loadCorrespondences, loadMarkets } from '../markets';

/** Names kept in mind of one field; of more, most are no names that items share. */
const mostNames = 20_000;

/** The values that items have now in each of the fields, those of most items first, for telling what is new in a file. */
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

export interface ReadNovelty extends Novelty {
  /** The market in whose words it was understood. */
  by: string | null;
}

/** New names with what they mean where a market has a word for it, in whatever language; what is only like a name of ours stays so. */
export async function readByMarkets(
  db: Db,
  novelties: readonly Novelty[],
  known: ReadonlyMap<string, readonly string[]>,
): Promise<ReadNovelty[]> {
  const fields = new Set(novelties.map((n) => n.field)),
    read = novelties.map((n): ReadNovelty => ({ ...n, by: null }));
  if (fields.size === 0) return read;
  for (const { id, name, rulebook } of await loadMarkets(db)) {
    const said = await loadCorrespondences(db, id);
    for (const a of rulebook.attributes) {
      const entries = a.codes === undefined ? undefined : rulebook.codeLists[a.codes]?.entries,
        fed = entries ? listSourceFields(a, said).filter((f) => fields.has(f)) : [];
      for (const field of fed) {
        const meaning = createReader(entries!, known.get(field) ?? [], rulebook.market.languages[0]);
        for (const n of read.filter((r) => r.field === field && r.by === null)) {
          const near = meaning(n.value);
          if (near !== undefined && near !== n.value) Object.assign(n, { near, by: name });
        }
      }
    }
  }
  return read;
}
