// A house of 100,000 items without markets, with fields of every kind, for what is asked and changed in bulk.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Value } from '@basileus/core/listing';
import pg from 'pg';
import { connect, type Db, migrate } from '../server/database';
import { insertProducts } from '../server/products';

export const size = 100_000;

export const makeItem = (i: number): Record<string, Value> => ({
  title: `Brindlewick Hearth Frying Pan ${20 + (i % 16)} cm number ${i}`,
  brand: ['Brindlewick', 'Greyfell', 'Tallow Lane', 'Withy & Wren'][i % 4]!,
  category: ['Frying pans', 'Bowls', 'Aprons', 'Cutlery', 'Boards'][i % 5]!,
  mpn: `FP-${i}`,
  price: `${20 + (i % 60)}.${String(i % 100).padStart(2, '0')}`,
  cost: `${8 + (i % 20)}.40`,
  stock: String(i % 400),
  description: `A pan for daily frying with a flat base and sloping sides, number ${i} of its kind. `.repeat(4),
  highlights: ['Holds its heat', 'Even base', i % 3 ? 'Riveted handle' : 'Stacks'],
  'fact.colour': ['Blue', 'Black', 'Cream'][i % 3]!,
  'fact.material': 'Cast iron',
  'fact.width': `${20 + (i % 30)} cm`,
  'fact.parcel_weight': `${1 + (i % 3)}.2 kg`,
  'fact.dishwasher': i % 2 ? 'yes' : 'no',
  'fact.title@de': `Brindlewick Bratpfanne ${20 + (i % 16)} cm Nummer ${i}`,
  'fact.description@de': `Eine Pfanne für jeden Tag, Nummer ${i} ihrer Art. `.repeat(4),
  'fact.price@eur': `${24 + (i % 60)}.99`,
});

/** A database of its own with these items in it; `close` puts everything away. */
export async function openItemHouse(name: string): Promise<{ db: Db; close: () => Promise<void> }> {
  const { startCluster } = (await import(join(process.env['BASILEUS_ROOT']!, 'scripts/lib/postgres.mjs'))) as {
    startCluster: (f: string) => Promise<{ url: (n: string) => string; stop: () => Promise<void> }>;
  };
  const folder = mkdtempSync(join(tmpdir(), 'basileus-bench-'));
  const cluster = await startCluster(folder);
  const admin = new pg.Client(cluster.url('postgres'));
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const db = connect(cluster.url(name), 4);
  const close = async (): Promise<void> => {
    await db.destroy();
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  await migrate(db);
  for (let i = 0; i < size; i += 1000)
    await insertProducts(
      db,
      Array.from({ length: 1000 }, (_, n) => ({
        sku: `SKU-${i + n}`,
        kind: 'single' as const,
        parentSku: null,
        axes: [],
        fields: makeItem(i + n),
      })),
    );
  await db.raw('vacuum analyze');
  return { db, close };
}
