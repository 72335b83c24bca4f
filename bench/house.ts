// Work on a house of 100,000 SKUs that stands in a database: checking a market again, and a large import.
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import type { Listing } from '@basileus/core/listing';
import { allJobs } from '../server/all-jobs';
import { asks } from '../server/asks';
import { connect, copyInto, type Db, rowsOf, writeOn } from '../server/database';
import { storeFile } from '../server/files';
import { startWriting, takeIn } from '../server/imports';
import { enqueue, openBeside, runHere } from '../server/jobs';
import { refreshMarket } from '../server/listings';
import { bumpRevision, loadMarket } from '../server/markets';

/**
 * Everything of a market checked anew, as after a change of its rulebook that touches nothing, as its job does it: in two threads.
 * Answers the listings.
 */
export async function recheck(db: Db, url: string, key: string): Promise<number> {
  const token = randomUUID(),
    id = await enqueue(db, { kind: 'bench', title: 'bench', payload: {}, delaySeconds: 36_000 });
  await db.raw('insert into job_runs (token, job_id) values (?, ?)', [token, id]);
  await bumpRevision(db, await loadMarket(db, key));
  let told = 0;
  const tell = (done: number): Promise<void> => {
    told = done;
    return Promise.resolve();
  };
  const beside = openBeside(join(process.env['BASILEUS_ROOT']!, 'dist/thread.mjs'), url)(token);
  await refreshMarket(db, await loadMarket(db, key), tell, writeOn(db), beside);
  await db.raw('delete from jobs where id = ?', [id]);
  return told;
}

interface BareRow {
  id: number;
  sku: string;
  kind: string;
  parent_sku: string | null;
  category: string | null;
  axes: string[];
  values: Listing['values'];
  cost: string | null;
  accepted_details: Listing['values'] | null;
}
const rowsAtOnce = 2000;

/** The same rows read in pages and given to the same prepared checks, and nothing else. */
export async function recheckBare(db: Db, key: string): Promise<number> {
  const market = await loadMarket(db, key);
  let after = 0,
    rows = 0,
    findings = 0;
  for (;;) {
    const page = await rowsOf<BareRow>(
      db,
      `select l.id, p.sku, p.kind, parent.sku as parent_sku, l.category, p.axes, l."values", p.cost, l.accepted_details
        from listings l join products p on p.id = l.product_id left join products parent on parent.id = p.parent_id
        where l.market_id = ? and l.id > ? order by l.id limit ?`,
      [market.id, after, rowsAtOnce],
    );
    if (page.length === 0) break;
    after = page.at(-1)!.id;
    rows += page.length;
    for (const r of page) {
      const check = r.category === null ? undefined : market.category(r.category)?.check;
      findings +=
        check?.({
          sku: r.sku,
          role: r.kind === 'family' ? 'parent' : r.kind === 'variant' ? 'variant' : 'single',
          parentSku: r.parent_sku ?? undefined,
          category: r.category!,
          axes: r.axes,
          values: r.values,
          cost: r.cost ?? undefined,
          accepted: r.accepted_details ?? undefined,
        }).length ?? 0;
    }
  }
  if (findings === 0) throw new Error('Nothing was found.');
  return rows;
}

const texts = ['Colour', 'Material', 'Size', 'Country of origin', 'Care', 'Ingredients', 'Author', 'Language'];
const others = ['Binding', 'Blend', 'Allergens', 'Battery type'];
const head = [
  'SKU',
  'Title',
  'Price',
  'Cost',
  'Brand',
  'Part number',
  'Description',
  'Highlights',
  ...texts,
  ...others,
];

/** 100,000 rows of 20 columns, each with another price and other texts than stand there; `tag` makes each file another. */
export async function listImportRows(db: Db, tag: string): Promise<string[][]> {
  const items = await rowsOf<{ sku: string }>(
    db,
    `select sku from products where kind in ('single', 'variant') order by id limit 100000`,
  );
  return items.map(({ sku }, i) => [
    sku,
    `${tag} title ${i} for the kitchen`,
    `${10 + (i % 90)}.${10 + (tag.length % 80)}`,
    `${5 + (i % 40)}.20`,
    'Brindlewick',
    `${tag}-${i}`,
    `<p>${tag} says of item ${i}: for daily use.</p>`,
    `Holds ${tag} heat|Even base`,
    ...[...texts, ...others].map((_, k) => `${tag} ${k} ${i % 50}`),
  ]);
}

const connectHere = (url: string): Db => connect(url, 6);

/** The file taken in, understood, planned and written into the catalog. Answers the rows that were. */
export async function importRows(db: Db, rows: readonly string[][]): Promise<number> {
  const text = [head, ...rows].map((r) => r.join(';')).join('\n');
  const file = await storeFile(db, 'bench.csv', Readable.from([Buffer.from(text)]) as AsyncIterable<Uint8Array>);
  const threads = runHere(db, allJobs, asks as never);
  const { id } = await takeIn(db, threads, { id: file.id, name: 'bench.csv' });
  const run = async (kind: string): Promise<void> => {
    const [job] = await rowsOf<{ payload: unknown }>(
      db,
      `update jobs set state = 'done' where kind = ? and state = 'queued' returning payload`,
      [kind],
    );
    const nothing = (): Promise<void> => Promise.resolve();
    await allJobs
      .find((k) => k.kind === kind)!
      .run(job!.payload, { id: 'bench', db, attempt: 1, beside: undefined, progress: nothing, write: writeOn(db) });
  };
  await run('plan-import');
  await startWriting(db, id, 'bench');
  await run('apply-import');
  const [done] = await rowsOf<{ n: number }>(db, `select (counts ->> 'applied')::int as n from imports where id = ?`, [
    id,
  ]);
  if (done!.n < rows.length) throw new Error(`${done!.n} of ${rows.length} rows were written.`);
  return done!.n;
}

/** The same rows by COPY into a table of texts without an index. */
export async function copyBare(db: Db, rows: readonly string[][]): Promise<number> {
  await db.raw('drop table if exists bench_bare');
  await db.raw(`create table bench_bare (${head.map((_, i) => `c${i} text`).join(', ')})`);
  await db.transaction((tx) => copyInto(tx, 'bench_bare', rows));
  return rows.length;
}

/** Runs a piece of work on the house at `url`; `prepare` is not timed. */
export async function onHouse<T>(
  url: string,
  prepare: (db: Db) => Promise<T>,
  time: (work: () => Promise<number>) => Promise<void>,
  work: (db: Db, prepared: T) => Promise<number>,
): Promise<void> {
  const db = connectHere(url);
  const prepared = await prepare(db);
  await time(() => work(db, prepared));
  await db.destroy();
}
