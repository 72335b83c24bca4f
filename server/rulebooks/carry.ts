// What stands under a name that a new version of a rulebook has otherwise goes along: what people said of the market, what they
// typed on it, and what it accepted last, so that nothing is asked again and nothing is sent anew for a name.
import type { Renames } from '@basileus/core/rulebook';
import type { Db } from '../database';

const toPairs = (names: ReadonlyMap<string, string>) => [...names].map(([was, now]) => ({ was, now }));

/** The values of a listing under their attributes' new names, and with the new codes. */
const carried = (column: string): string => `(
  select jsonb_object_agg(coalesce(a.now, e.key), case jsonb_typeof(e.value)
    when 'string' then coalesce((select to_jsonb(c.now) from codes c where c.attribute = coalesce(a.now, e.key) and c.was = e.value #>> '{}'), e.value)
    when 'array' then (
      select coalesce(jsonb_agg(coalesce((select to_jsonb(c.now) from codes c where c.attribute = coalesce(a.now, e.key) and c.was = x.value #>> '{}'), x.value) order by x.at), '[]')
      from jsonb_array_elements(e.value) with ordinality as x(value, at))
    else e.value end)
  from jsonb_each(l.${column}) e left join attributes a on a.was = e.key)`;

async function carryNodes(db: Db, market: number, nodes: ReadonlyMap<string, string>): Promise<void> {
  const names = JSON.stringify(toPairs(nodes)),
    from = 'from jsonb_to_recordset(?::jsonb) as r(was text, now text)';
  await db.raw(`update listings l set category = r.now ${from} where l.market_id = ? and l.category = r.was`, [
    names,
    market,
  ]);
  await db.raw(
    `update correspondences c set theirs = r.now ${from} where c.market_id = ? and c.kind = 'category' and c.theirs = r.was`,
    [names, market],
  );
  await carrySaid(db, market, 'node', nodes);
}

/**
 * What is said at a node, or of an attribute. One name after the other: where several become one, what is said of the new
 * name already stays, then that of the first old one.
 */
async function carrySaid(
  db: Db,
  market: number,
  column: 'node' | 'attribute',
  names: ReadonlyMap<string, string>,
): Promise<void> {
  const other = column === 'node' ? 'attribute' : 'node';
  for (const [was, now] of names) {
    await db.raw(
      `update correspondences c set ${column} = ?
        where c.market_id = ? and c.kind = 'value' and c.${column} = ?
          and not exists (select 1 from correspondences o
            where o.market_id = c.market_id and o.kind = c.kind and o.ours = c.ours and o.${other} = c.${other} and o.${column} = ?)`,
      [now, market, was, now],
    );
    await db.raw(
      `update attribute_sources s set ${column} = ?
        where s.market_id = ? and s.${column} = ?
          and not exists (select 1 from attribute_sources o
            where o.market_id = s.market_id and o.${other} = s.${other} and o.${column} = ?)`,
      [now, market, was, now],
    );
  }
}

async function carryCodes(db: Db, market: number, codes: string): Promise<void> {
  const from = 'from jsonb_to_recordset(?::jsonb) as r(attribute text, was text, now text)';
  await db.raw(
    `update correspondences c set theirs = r.now ${from}
      where c.market_id = ? and c.kind = 'value' and c.attribute = r.attribute and c.theirs = r.was`,
    [codes, market],
  );
  await db.raw(
    `update attribute_sources s set source = jsonb_set(s.source, '{text}', to_jsonb(r.now)) ${from}
      where s.market_id = ? and s.attribute = r.attribute and s.source ->> 'is' = 'text' and s.source ->> 'text' = r.was`,
    [codes, market],
  );
}

/** Carries everything of a market over to the names of a new version. In the transaction that puts it in force. */
export async function carryOver(db: Db, market: number, { nodes, attributes, codes }: Renames): Promise<void> {
  if (nodes.size > 0) await carryNodes(db, market, nodes);
  await carrySaid(db, market, 'attribute', attributes);
  const renamedCodes = JSON.stringify(
    [...codes].flatMap(([attribute, names]) => toPairs(names).map((n) => ({ attribute, ...n }))),
  );
  if (codes.size > 0) await carryCodes(db, market, renamedCodes);
  const touched = [...attributes.keys(), ...codes.keys()];
  if (touched.length === 0) return;
  for (const column of ['overrides', 'accepted_details', 'accepted_price', 'accepted_stock'])
    await db.raw(
      `with attributes as materialized (select * from jsonb_to_recordset(?::jsonb) as r(was text, now text)),
        codes as materialized (select * from jsonb_to_recordset(?::jsonb) as r(attribute text, was text, now text))
        update listings l set ${column} = ${carried(column)}
        where l.market_id = ? and jsonb_exists_any(l.${column}, ?)`,
      [JSON.stringify(toPairs(attributes)), renamedCodes, market, touched],
    );
}
