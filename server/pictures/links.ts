// Which links to pictures the catalog has: kept beside it, in step with the versions of its products.
import { type Db, rowsOf, type Write } from '../database';

const productsAtOnce = 2000;

/** The host of a link as hosts are known here; undefined where it is no link that could be asked. */
export function readHost(link: string): string | undefined {
  if (link.length > 2000 || !URL.canParse(link)) return undefined;
  const { protocol, host } = new URL(link);
  return (protocol === 'https:' || protocol === 'http:') && /^[a-z0-9.-]+(:\d+)?$/.test(host) ? host : undefined;
}

/** Brings the links up to date with the products that have changed since they were read. Answers how many products those were. */
export async function keepLinks(write: Write): Promise<number> {
  let read = 0;
  for (;;) {
    const n = await write(keepSome);
    read += n;
    if (n === productsAtOnce) continue;
    // A link that nothing shows any more is nobody's.
    if (read > 0)
      await write((tx) =>
        tx.raw('delete from pictures p where not exists (select 1 from picture_uses u where u.url = p.url)'),
      );
    return read;
  }
}

async function keepSome(tx: Db): Promise<number> {
  const changed = await rowsOf<{ id: number; version: number; pictures: unknown }>(
    tx,
    `select p.id, p.version, p.pictures from products p left join picture_seen s on s.product_id = p.id
      where s.version is distinct from p.version order by p.id limit ?`,
    [productsAtOnce],
  );
  if (changed.length === 0) return 0;
  const uses = changed.flatMap(({ id, pictures }) =>
    [...new Set(Array.isArray(pictures) ? (pictures as unknown[]) : [])].flatMap((url) => {
      const host = typeof url === 'string' ? readHost(url) : undefined;
      return host === undefined ? [] : [{ id, url, host }];
    }),
  );
  await tx.raw(
    `with uses as (select * from jsonb_to_recordset(?::jsonb) as u(id bigint, url text, host text)),
      added as (insert into pictures (url, host) select distinct url, host from uses order by url on conflict do nothing)
      delete from picture_uses o where o.product_id = any(?)
        and not exists (select 1 from uses u where u.id = o.product_id and u.url = o.url)`,
    [JSON.stringify(uses), changed.map((c) => c.id)],
  );
  await tx.raw(
    `insert into picture_uses (product_id, url)
      select id, url from jsonb_to_recordset(?::jsonb) as u(id bigint, url text) on conflict do nothing`,
    [JSON.stringify(uses)],
  );
  await tx.raw(
    `insert into picture_seen (product_id, version)
      select id, version from jsonb_to_recordset(?::jsonb) as s(id bigint, version int)
      on conflict (product_id) do update set version = excluded.version`,
    [JSON.stringify(changed.map(({ id, version }) => ({ id, version })))],
  );
  return changed.length;
}
