// A market's rulebook: put in force in a new version, or only compared with what is.
import { houseCurrency, houseLanguage } from '@basileus/core/product';
import {
  compareRulebooks,
  findRenames,
  makeCategorySchema,
  parseRulebook,
  type Rulebook,
  type RulebookChange,
} from '@basileus/core/rulebook';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { addFacets } from '../fields';
import { AppError } from '../http';
import { refreshLater } from '../listings';
import { bumpRevision, type Market } from '../markets';
import { recordHistory } from '../history';
import { carryOver } from './carry';
import { say } from '@basileus/core/text';

/** A document as a rulebook; a refusal with the path of the first fault where it is none. */
export function readRulebookDocument(body: unknown): Rulebook {
  const reading = parseRulebook(body);
  if (reading.ok) return reading.rulebook;
  const f = reading.faults[0]!;
  throw new AppError('bad-input', `${f.path}: ${f.reason}`, {
    field: f.path,
    remedy: say`Correct the document${reading.faults.length > 1 ? say`; there are ${reading.faults.length} faults` : ''}.`,
  });
}

/** The same of this very market. */
function readDocument(market: Market, body: unknown): Rulebook {
  const rulebook = readRulebookDocument(body);
  if (rulebook.market.key !== market.key)
    throw new AppError('bad-input', say`This rulebook is for “${rulebook.market.key}”, not for ${market.name}.`, {
      field: 'market.key',
    });
  return rulebook;
}

/** The document in force as its author wrote it. */
export async function loadDocument(db: Db, market: Market): Promise<Record<string, unknown>> {
  const row = await rowOf<{ document: Record<string, unknown> }>(db, 'select document from rulebooks where id = ?', [
    market.rulebookId,
  ]);
  return row!.document;
}

/** Puts a document in force; everything on the market is checked against it by a job, whose id is answered. */
export async function putInForce(
  db: Db,
  market: Market,
  document: unknown,
  actor: string,
): Promise<{ version: string; job: string }> {
  const rulebook = readDocument(market, document);
  const job = await db.transaction(async (tx) => {
    const row = (await rowOf<{ id: number }>(
      tx,
      `insert into rulebooks (market_key, version, document)
        values (?, ?, ?)
        on conflict (market_key, version) do update set document = excluded.document, created_at = now()
        returning id`,
      [market.key, rulebook.version, JSON.stringify(document)],
    ))!;
    await tx.raw('update markets set rulebook_id = ? where id = ?', [row.id, market.id]);
    await carryOver(tx, market.id, findRenames(market.rulebook, rulebook));
    await keepFamilyRows(tx, market.id, rulebook);
    await keepSpoken(tx, rulebook);
    await bumpRevision(tx, market);
    await recordHistory(tx, actor, { is: 'in-force', market: market.name, version: rulebook.version });
    await announce(tx, { topic: 'markets' });
    return refreshLater(tx, market);
  });
  return { version: rulebook.version, job };
}

/** What a market's rulebook speaks and sells in is kept of items from then on. */
export async function keepSpoken(db: Db, { sites }: Rulebook): Promise<void> {
  const languages = new Set(sites.flatMap((s) => s.languages)),
    currencies = new Set(sites.map((s) => s.currency));
  languages.delete(houseLanguage);
  currencies.delete(houseCurrency);
  const added = [
    ...(await addFacets(db, 'language', [...languages])),
    ...(await addFacets(db, 'currency', [...currencies])),
  ];
  if (added.length > 0) await announce(db, { topic: 'own' });
}

/** Family rows are listings only where the market has rows for them; those that it knows already stay. */
export async function keepFamilyRows(db: Db, marketId: number, rulebook: Rulebook): Promise<void> {
  const hasRows = rulebook.families.parents !== 'none';
  await db.raw('update markets set family_rows = ? where id = ?', [hasRows, marketId]);
  if (hasRows)
    await db.raw(
      `insert into listings (product_id, market_id, own_category)
        select id, ?, coalesce(category, '')
        from products
        where kind = 'family'
        on conflict do nothing`,
      [marketId],
    );
  else
    await db.raw(
      `delete from listings l
        using products p
        where p.id = l.product_id and p.kind = 'family' and l.market_id = ? and l.market_state in ('none', 'left out') and l.in_flight = 0
          and not exists (select 1 from dispatch_lines d where d.listing_id = l.id)`,
      [marketId],
    );
}

/** What a document would change of what is in force. Nothing is changed. */
export function compareWithForce(
  market: Market,
  document: unknown,
): { version: string; inForce: string; changes: RulebookChange[] } {
  const rulebook = readDocument(market, document);
  return {
    version: rulebook.version,
    inForce: market.rulebook.version,
    changes: compareRulebooks(market.rulebook, rulebook),
  };
}

/** What a category demands, as a schema for programs that are not ours. */
export function describeCategory(market: Market, category: string): Record<string, unknown> {
  const found = market.category(category);
  if (!found)
    throw new AppError('not-found', say`${market.name} takes no items in a category “${category}”.`, {
      field: 'category',
    });
  return makeCategorySchema(market.rulebook, found.compiled);
}
