// A market with its rulebook compiled: read once per rulebook version, then shared by requests and jobs.
import { type CategoryChecker, prepareChecks } from '@basileus/core/checks';
import { prepareListingMargin, type PriceFiller, preparePrices } from '@basileus/core/pricing';
import {
  type CompiledCategory,
  compileCategory,
  compileOffer,
  createLabeler,
  parseRulebook,
  restrictRulebook,
  type Rulebook,
} from '@basileus/core/rulebook';
import { z } from 'zod';
import { type Db, parseColumn, rowOf, rowsOf } from '../database';
import { AppError } from '../http';
import { loadRates, type Rate } from './rates';
import { makeStraightPass } from './straight-pass';
import { say } from '@basileus/core/text';

const pieces = z.int().min(0).default(0);
/** Rules of ours for what is published there: stock kept back, the least and the most that is shown, how it is shared out, and prices made of the house price. */
const settingsSchema = z.object({
  buffer: pieces,
  least: pieces,
  most: z.int().min(1).nullable().default(null),
  weight: z.int().min(1).nullable().default(null),
  prices: z
    .record(
      z.string(),
      z.object({ percent: z.string(), round: z.object({ step: z.string(), ending: z.string() }).nullable() }),
    )
    .default({}),
});
export type MarketSettings = z.output<typeof settingsSchema>;
const connectionSchema = z.object({ url: z.string().optional(), user: z.string().optional() });
export interface Market {
  id: number;
  key: string;
  name: string;
  rulebookId: number;
  rulebook: Rulebook;
  settings: MarketSettings;
  /** Markets among which stock is shared out, with their weights, where this one is among them. */
  sharing: readonly Sharing[] | undefined;
  connection: z.output<typeof connectionSchema>;
  /** What one unit of the house currency buys of others, as people have said. */
  rates: Readonly<Record<string, string>>;
  /** Fills in prices that an item has none of its own of. */
  fillPrices: PriceFiller;
  /** Neither asked nor sent to by itself. */
  isPaused: boolean;
  /** Goes up with every change of the rulebook or of a correspondence: what was checked against less is checked anew. */
  revision: number;
  /** The first revision whose checks count: above 1 from a change of the market until everything was checked against it. */
  checksFrom: number;
  /**
   * A leaf made ready; for an offer that joins an entry of the market, with the terms of an offer alone; without what is of
   * sites alone where the item is not sold.
   */
  category: (key: string, isOffer?: boolean, out?: readonly string[]) => Leaf | undefined;
  /** The rulebook as it holds for what is not sold at some of its sites. */
  at: (out: readonly string[]) => Rulebook;
  labelOf: (attribute: string) => string;
}

/** A market that takes part in sharing stock out. */
export type Sharing = z.output<typeof sharingSchema>[number];
const sharingSchema = z.array(z.object({ id: z.int(), key: z.string(), name: z.string(), weight: z.int().min(1) }));

interface MarketRow {
  id: number;
  key: string;
  name: string;
  rulebook_id: number;
  settings: unknown;
  connection: unknown;
  paused: boolean;
  revision: number;
  checks_from: number;
  sharing: unknown;
}
/** A market with all those that share stock out. */
const marketSelect = `select m.*, (select jsonb_agg(jsonb_build_object('id', s.id, 'key', s.key, 'name', s.name, 'weight', s.settings -> 'weight') order by s.id)
    from markets s where s.rulebook_id is not null and s.settings ->> 'weight' is not null) as sharing
  from markets m`;
export interface Leaf {
  compiled: CompiledCategory;
  check: CategoryChecker;
  /** What the price of a listing leaves, in thousandths, with the rates of the market. */
  marginOf: ReturnType<typeof prepareListingMargin>;
}
/** A rulebook, whole or without some sites, and what of it was made ready. */
interface Ready {
  rulebook: Rulebook;
  categories: Map<string, Leaf | undefined>;
  offers: Map<string, Leaf | undefined>;
}
interface Compiled extends Ready {
  /** By the sites that are left out. */
  without: Map<string, Ready>;
  labelOf: (attribute: string) => string;
}
const makeReady = (rulebook: Rulebook): Ready => ({ rulebook, categories: new Map(), offers: new Map() });

/** The rulebook without some of its sites, made once for each set of them. A site that it does not know is none. */
function without(compiled: Compiled, out: readonly string[]): Ready {
  const known = compiled.rulebook.sites.map((s) => s.key).filter((s) => out.includes(s));
  if (known.length === 0 || known.length === compiled.rulebook.sites.length) return compiled;
  const name = known.join(' ');
  const ready = compiled.without.get(name) ?? makeReady(restrictRulebook(compiled.rulebook, known));
  compiled.without.set(name, ready);
  return ready;
}

const compiledByRulebook = new Map<string, Compiled>();

async function loadCompiled(db: Db, rulebookId: number): Promise<Compiled> {
  // Whether the document is known is asked before it is read: it is large, and every request comes by here.
  const version = await rowOf<{ created_at: Date }>(db, 'select created_at from rulebooks where id = ?', [rulebookId]);
  const key = `${rulebookId}/${version?.created_at.toISOString() ?? ''}`;
  const known = compiledByRulebook.get(key);
  if (known) return known;
  const row = await rowOf<{ document: unknown }>(db, 'select document from rulebooks where id = ?', [rulebookId]);
  const reading = parseRulebook(row?.document);
  if (!reading.ok)
    throw new Error(
      `Rulebook ${rulebookId} in the database is not valid: ${reading.faults[0]?.path ?? ''} ${reading.faults[0]?.reason ?? ''}`,
    );
  const compiled: Compiled = {
    ...makeReady(reading.rulebook),
    without: new Map(),
    labelOf: createLabeler(reading.rulebook),
  };
  compiledByRulebook.set(key, compiled);
  return compiled;
}

async function toMarket(db: Db, row: MarketRow, said?: readonly Rate[]): Promise<Market> {
  const compiled = await loadCompiled(db, row.rulebook_id);
  const rates = Object.fromEntries((said ?? (await loadRates(db))).map((r) => [r.currency, r.rate]));
  const settings = parseColumn('markets.settings', settingsSchema, row.settings);
  return {
    id: row.id,
    key: row.key,
    name: row.name,
    rulebookId: row.rulebook_id,
    rulebook: compiled.rulebook,
    connection: parseColumn('markets.connection', connectionSchema, row.connection),
    rates,
    fillPrices: preparePrices(compiled.rulebook, settings.prices, rates),
    isPaused: row.paused,
    revision: row.revision,
    checksFrom: row.checks_from,
    settings,
    sharing: settings.weight === null ? undefined : parseColumn('markets.settings', sharingSchema, row.sharing),
    at: (out) => without(compiled, out).rulebook,
    category: (key, isOffer = false, out = []) => {
      const ready = out.length === 0 ? compiled : without(compiled, out);
      const categories = isOffer ? ready.offers : ready.categories;
      if (!categories.has(key)) {
        const c = (isOffer ? compileOffer : compileCategory)(ready.rulebook, key);
        categories.set(
          key,
          c && {
            compiled: c,
            check: prepareChecks(c, undefined, makeStraightPass),
            marginOf: prepareListingMargin(c),
          },
        );
      }
      return categories.get(key);
    },
    labelOf: compiled.labelOf,
  };
}

/** All markets that have a rulebook in force. */
export async function loadMarkets(db: Db): Promise<Market[]> {
  const rows = await rowsOf<MarketRow>(db, `${marketSelect} where m.rulebook_id is not null order by m.id`);
  const said = await loadRates(db);
  const markets: Market[] = [];
  // One after the other: a transaction has one connection, which answers one question at a time.
  for (const r of rows) markets.push(await toMarket(db, r, said));
  return markets;
}

/** A market by key; a refusal where there is none. */
export async function loadMarket(db: Db, key: string): Promise<Market> {
  const row = await rowOf<MarketRow>(db, `${marketSelect} where m.key = ? and m.rulebook_id is not null`, [key]);
  if (!row)
    throw new AppError('not-found', say`There is no market “${key}”.`, {
      field: 'market',
      remedy: say`Choose one from the scope on the left.`,
    });
  return toMarket(db, row);
}

export async function loadMarketById(db: Db, id: number): Promise<Market> {
  const row = await rowOf<MarketRow>(db, `${marketSelect} where m.id = ?`, [id]);
  if (!row) throw new Error(`No market ${id}`);
  return toMarket(db, row);
}

/** Says that what a market's listings were checked against has changed. In the transaction of the change. */
export const bumpRevision = (db: Db, market: Market): Promise<unknown> =>
  db.raw('update markets set revision = revision + 1, checks_from = revision + 1 where id = ?', [market.id]);
