// Brindlewick's business system: told its articles, and connected, so that what it says can be brought in at once.
import { buildArticles } from '@basileus/demo/business';
import { buildCatalog } from '@basileus/demo/catalog';
import { sourceRules } from '@basileus/core/source';
import type { Logger } from 'pino';
import type { Db } from '../database';

const name = 'Countinghouse';
/** The key that the stand-in knows its one reader by. */
const key = 'ch-4471-tally';
const addressAt = (url: string): string => `${url}/articles`;

const rules = sourceRules.parse({
  sku: 'textjoin("-", [article], [variant])',
  family: 'if(isempty([variant]), "", [article])',
  only: 'and([unit] = "PCS", [blocked] = "no")',
  fields: [
    { field: 'title', from: '[name]', owner: 'first' },
    { field: 'gtin', from: '[barcode]', owner: 'first' },
    { field: 'category', from: 'proper([group])', owner: 'first' },
    { field: 'cost', from: '[cost]', owner: 'theirs' },
    { field: 'stock', from: '[on_hand]', owner: 'theirs' },
    { field: 'price', from: 'round(value([list_price]), 2)', owner: 'first' },
    { field: 'description', from: '[long_text]', owner: 'first' },
  ],
});

const articlesAtOnce = 5000;

/** Enters the demo's articles into the system and connects it. A system that does not answer is left out. */
export async function addBusinessSystem(db: Db, url: string, size: number, log: Logger): Promise<void> {
  const tell = async (what: string, body: string): Promise<void> => {
    const response = await fetch(`${url}/_control/${what}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body,
      signal: AbortSignal.timeout(30_000),
    });
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
  };
  const enter = (articles: readonly object[]): Promise<void> => tell('enter', JSON.stringify(articles));
  try {
    // It may remember a demo that is no more.
    await tell('begin', '');
    let batch: object[] = [];
    for (const article of buildArticles(buildCatalog(size))) {
      batch.push(article);
      if (batch.length >= articlesAtOnce) {
        await enter(batch);
        batch = [];
      }
    }
    await enter(batch);
  } catch (error) {
    log.warn({ error: String(error) }, 'the business system did not take its articles; the demo begins without it');
    return;
  }
  await db.raw(
    `with added as (
        insert into sources (name, way, address, since_param, rules, actor) values (?, 'pages', ?, 'since', ?::jsonb, 'Catalog desk') returning id)
      insert into source_keys (source_id, key) select id, ? from added`,
    [name, addressAt(url), JSON.stringify(rules), key],
  );
}

/** Tells where the stand-in is now: its port is another one after each start. */
export async function findBusinessSystem(db: Db, url: string): Promise<void> {
  await db.raw(
    `update sources s set address = ? where s.name = ? and s.address ~ '^http://127\\.0\\.0\\.1:[0-9]+/articles$'`,
    [addressAt(url), name],
  );
}
