// Markets as people add, reach, pause and remove them.
import { isDeepStrictEqual } from 'node:util';
import type { createMarket, changeMarket, MarketChange, readMarket, tryConnection } from '@basileus/contract';
import type { Transport } from '@basileus/core/rulebook';
import type { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { watchShelf } from '../dispatches';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { loadStateCounts, refreshLater } from '../listings';
import {
  bumpRevision,
  forgetHost,
  isPrivateKey,
  loadHost,
  loadKeyDay,
  loadMarket,
  loadMarkets,
  makePrivateKey,
  type Market,
  openFreeGate,
  openGate,
  openMarketPort,
  readPublicKey,
  storeKey,
} from '../markets';
import { keepFamilyRows, keepSpoken, readRulebookDocument } from '../rulebooks';
import { say } from '@basileus/core/text';

/** The scope of all markets has this name in addresses. */
const reserved = 'all';

/** Adds a market by its rulebook; every item gets a listing there, which a job checks. Answers the market and that job. */
export async function addMarket(
  db: Db,
  { document, url, settings, secret, user }: z.output<typeof createMarket.body>,
  actor: string,
): Promise<z.output<typeof createMarket.response>> {
  const rulebook = readRulebookDocument(document);
  const { key, name } = rulebook.market;
  if (key === reserved)
    throw new AppError('bad-input', say`“${key}” is the name of all markets together; give this one another key.`, {
      field: 'market.key',
    });
  return db.transaction(async (tx) => {
    if (await rowOf(tx, 'select 1 as x from markets where key = ?', [key]))
      throw new AppError('conflict', say`There is a market “${key}” already.`, {
        field: 'market.key',
        remedy: say`Put the document in force there as a new version, or give the new market another key.`,
      });
    const book = (await rowOf<{ id: number }>(
      tx,
      `insert into rulebooks (market_key, version, document)
        values (?, ?, ?)
        on conflict (market_key, version) do update set document = excluded.document, created_at = now()
        returning id`,
      [key, rulebook.version, JSON.stringify(document)],
    ))!;
    const added = (await rowOf<{ id: number }>(
      tx,
      'insert into markets (key, name, rulebook_id, settings, connection) values (?, ?, ?, ?, ?) returning id',
      [key, name, book.id, JSON.stringify(settings), toConnection(url, user)],
    ))!;
    judgeKey(rulebook.transport, secret);
    await storeKey(tx, added.id, secret);
    await keepFamilyRows(tx, added.id, rulebook);
    await keepSpoken(tx, rulebook);
    await tx.raw(
      `insert into listings (product_id, market_id, own_category)
        select id, ?, coalesce(category, '')
        from products
        where kind <> 'family'
        on conflict do nothing`,
      [added.id],
    );
    const market = await loadMarket(tx, key);
    const job = await refreshLater(tx, market);
    if (market.sharing) await followWeight(tx, market.id);
    if (url !== null) await watchShelf(tx, key);
    await recordHistory(tx, actor, { is: 'market-added', market: name, version: rulebook.version });
    await announce(tx, { topic: 'markets' }, { topic: 'listings' });
    return { key, name, job };
  });
}

/** How a market is reached, and how much of it there is. */
export async function loadConnection(db: Db, market: Market): Promise<z.output<typeof readMarket.response>> {
  const states = await loadStateCounts(db, [market.id]);
  const { transport } = market.rulebook;
  const sharing = (await loadMarkets(db)).find((m) => m.sharing)?.sharing ?? [];
  return {
    key: market.key,
    name: market.name,
    version: market.rulebook.version,
    transport: transport.kind,
    url: market.connection.url ?? null,
    asksKey: asksKey(transport),
    user: market.connection.user ?? null,
    host: (await loadHost(db, market.id)) ?? null,
    publicKey: transport.kind === 'sftp' ? readPublicKey((await openGate(db, market).loadKey()) ?? '') : null,
    keySince: (await loadKeyDay(db, market.id))?.toISOString() ?? null,
    isPaused: market.isPaused,
    settings: market.settings,
    sharing: sharing.map(({ key, name, weight }) => ({ key, name, weight })),
    sharingBefore: sharing.filter((s) => s.id < market.id).length,
    listings: states.reduce((n, s) => n + s.n, 0),
    live: states.find((s) => s.state === 'live')?.n ?? 0,
  };
}

/** Changes the address, the settings or the pause. What is published as stock is worked out anew by a job. */
export async function putChange(
  db: Db,
  market: Market,
  change: z.output<typeof changeMarket.body>,
  actor: string,
): Promise<void> {
  await db.transaction(async (tx) => {
    const what: MarketChange[] = [];
    const before = { url: market.connection.url ?? null, user: market.connection.user ?? null };
    const after = {
      url: change.url === undefined ? before.url : change.url,
      user: change.user === undefined ? before.user : change.user,
    };
    if (after.url !== before.url || after.user !== before.user) {
      await tx.raw('update markets set connection = ?, shelf_cursor = null where id = ?', [
        toConnection(after.url, after.user),
        market.id,
      ]);
      what.push('address');
      // The key of one house is not shown to another.
      if (hostOf(after.url) !== hostOf(before.url)) {
        await storeKey(tx, market.id, null);
        await forgetHost(tx, market.id);
      }
    }
    if (change.secret !== undefined) {
      judgeKey(market.rulebook.transport, change.secret);
      await storeKey(tx, market.id, change.secret);
      what.push('key');
    }
    if (change.forgetHost) {
      await forgetHost(tx, market.id);
      what.push('host');
    }
    if (change.isPaused !== undefined && change.isPaused !== market.isPaused) {
      await tx.raw('update markets set paused = ? where id = ?', [change.isPaused, market.id]);
      what.push(change.isPaused ? 'paused' : 'resumed');
    }
    const { settings } = change;
    if (settings && !isDeepStrictEqual(settings, market.settings)) {
      await tx.raw('update markets set settings = ? where id = ?', [JSON.stringify(settings), market.id]);
      await bumpRevision(tx, market);
      await refreshLater(tx, await loadMarket(tx, market.key));
      if (settings.weight !== market.settings.weight) await followWeight(tx, market.id);
      what.push('settings');
    }
    if (what.length === 0) return;
    if (!what.includes('paused')) await watchShelf(tx, market.key);
    await recordHistory(tx, actor, { is: 'market-changed', market: market.name, what });
    await announce(tx, { topic: 'markets' });
  });
}

/** Among whom stock is shared out has changed: the others that share it are told something else from now on. */
async function followWeight(tx: Db, changed: number): Promise<void> {
  for (const m of await loadMarkets(tx))
    if (m.sharing && m.id !== changed) {
      await bumpRevision(tx, m);
      await refreshLater(tx, await loadMarket(tx, m.key));
    }
}

const asksKey = (transport: Transport): boolean =>
  transport.kind === 'sftp' || (transport.kind === 'http' && transport.login !== undefined);
/** Scheme, host and port: what a key is given for. */
const hostOf = (url: string | null | undefined): string => {
  if (!url) return '';
  const { protocol, host } = new URL(url);
  return `${protocol}//${host}`;
};
const toConnection = (url: string | null, user: string | null): string =>
  JSON.stringify({ ...(url === null ? {} : { url }), ...(user === null ? {} : { user }) });

/** Refuses a private key that cannot be read, or that a market is given which knows sellers by no such thing. */
function judgeKey(transport: Transport, key: string | null): void {
  if (key === null || !isPrivateKey(key)) return;
  if (transport.kind !== 'sftp')
    throw new AppError('bad-input', say`This market knows sellers by a word, not by a key pair.`, {
      field: 'secret',
      remedy: say`Give the key as the market has given it.`,
    });
  readPublicKey(key);
}

/** Makes a key pair for a market of folders and keeps its private half; answers the public half. */
export async function giveKeyPair(db: Db, market: Market, actor: string): Promise<{ publicKey: string }> {
  if (market.rulebook.transport.kind !== 'sftp')
    throw new AppError('bad-input', say`${market.name} takes no files in folders; it knows no key pairs.`, {
      remedy: say`Give the key that the market has given.`,
    });
  const key = makePrivateKey();
  await db.transaction(async (tx) => {
    await storeKey(tx, market.id, key);
    await recordHistory(tx, actor, { is: 'market-changed', market: market.name, what: ['key'] });
    await announce(tx, { topic: 'markets' });
  });
  return { publicKey: readPublicKey(key)! };
}

/** Asks the market for its shelf list, at the address given or the one that is kept. Nothing is changed. */
export async function tryMarket(
  db: Db,
  market: Market,
  { url, secret, user }: z.output<typeof tryConnection.body>,
): Promise<z.output<typeof tryConnection.response>> {
  if (market.rulebook.transport.kind === 'by-hand') return { is: 'by-hand' };
  const connection = {
    ...market.connection,
    ...(url === undefined ? {} : { url: url ?? undefined }),
    ...(user === undefined ? {} : { user }),
  };
  try {
    // A key that is kept is shown to the host that it was given for, and to no other.
    const isSameHost = hostOf(connection.url) === hostOf(market.connection.url);
    const kept = isSameHost ? openGate(db, market) : openFreeGate(undefined);
    judgeKey(market.rulebook.transport, secret ?? null);
    const key = secret ?? (await kept.loadKey());
    const shelf = await openMarketPort({ ...market, connection }, openFreeGate(key, await kept.loadHost())).readShelf(
      null,
    );
    return { is: 'good', entries: new Set(shelf.lines.map((l) => l.sku)).size };
  } catch (error) {
    if (!(error instanceof AppError)) throw error;
    return {
      is: 'bad',
      says: error.message,
      remedy: error.about.remedy ?? 'Look at the address, and whether the market is up.',
    };
  }
}

/** Removes a market with all that is kept of it. Refused while something is on its way, and without its name. */
export async function dropMarket(db: Db, market: Market, name: string, actor: string): Promise<void> {
  if (name !== market.name)
    throw new AppError('bad-input', say`“${name}” is not the name of this market, which is ${market.name}.`, {
      field: 'name',
      remedy: say`Removing cannot be taken back: type the name as it stands.`,
    });
  await db.transaction(async (tx) => {
    // No file is built meanwhile.
    await tx.raw('select pg_advisory_xact_lock(4107, ?)', [market.id]);
    const underway = await rowOf<{ n: number }>(
      tx,
      `select count(*) as n from dispatches where market_id = ? and state in ('built', 'by hand', 'sending', 'sent')`,
      [market.id],
    );
    if (underway && underway.n > 0)
      throw new AppError('not-now', say`${underway.n} dispatches to ${market.name} wait for an answer.`, {
        remedy: say`Settle them or give them up first.`,
      });
    await tx.raw('delete from dispatches where market_id = ?', [market.id]);
    // What was changed there stays in the history, of a market that is no more.
    await tx.raw('update change_sets set market_id = null where market_id = ?', [market.id]);
    const gone = await rowsOf(tx, 'delete from listings where market_id = ? returning 1 as x', [market.id]);
    await tx.raw('delete from correspondences where market_id = ?', [market.id]);
    await tx.raw('delete from attribute_sources where market_id = ?', [market.id]);
    await tx.raw('delete from markets where id = ?', [market.id]);
    if (market.sharing) await followWeight(tx, market.id);
    await tx.raw('delete from rulebooks where market_key = ?', [market.key]);
    await recordHistory(tx, actor, { is: 'market-removed', market: market.name, rows: gone.length });
    await announce(tx, { topic: 'markets' }, { topic: 'listings' }, { topic: 'dispatches' });
  });
}
