// Keeping what was found behind links, and judging anew what shows them.
import { pictureCheck } from '@basileus/core/checks';
import { judgePicture, type PictureFacts } from '@basileus/core/pictures';
import { type Db, rowsOf } from '../database';
import { loadPictureFacts, refreshProducts, type Touch } from '../listings';
import { loadMarkets } from '../markets';

export interface Found {
  link: string;
  /** As it was when the link was taken up: how often it had not been reached, and when it was due. */
  tries: number;
  due: string;
  facts: PictureFacts | { is: 'unreachable' };
  thumb: Buffer | null;
}

/** Nothing of the products has changed but what is known of their pictures. */
const touchOfPictures: Touch = { fields: new Set(['pictures']), formerGtins: [] };

const day = 86_400;
/** Seconds until a picture is looked at again: what is there rarely goes; what could not be reached is tried sooner, and less and less. */
const waitFor = ({ is }: Found['facts'], tries: number): number =>
  is === 'there' ? 30 * day : is === 'unreachable' ? Math.min(day, 300 * 2 ** Math.min(tries, 10)) : day;

/** Products whose listings are judged anew at a time. */
const productsAtOnce = 400;

/** Keeps what was found; the listings that show a picture of which something new is known are judged anew. */
export async function storeFound(tx: Db, found: readonly Found[]): Promise<void> {
  const rows = found.map(({ link, tries, due, facts, thumb }) => ({
    url: link,
    state: facts.is,
    status: facts.is === 'missing' ? facts.status : null,
    ...(facts.is === 'there'
      ? { width: facts.width, height: facts.height, kind: facts.kind, bytes: facts.bytes, on_white: facts.isOnWhite }
      : { width: null, height: null, kind: null, bytes: null, on_white: null }),
    thumb: thumb?.toString('base64') ?? null,
    tries: facts.is === 'unreachable' ? tries + 1 : 0,
    wait: waitFor(facts, tries),
    due,
  }));
  // Before it is written: what was known until now. It is locked by a statement of its own: one that locks what another part of
  // it writes leaves out what is written already, and whether it is depends on the way that the database chooses.
  await tx.raw('select from pictures where url = any(?) order by url for update', [found.map((f) => f.link)]);
  const before = await loadPictureFacts(
    tx,
    found.map((f) => f.link),
  );
  const changed = await rowsOf<{ url: string }>(
    tx,
    `with found as (
        select * from jsonb_to_recordset(?::jsonb) as f(url text, state text, status int, width int, height int, kind text,
          bytes int, on_white boolean, thumb text, tries int, wait int, due timestamptz)),
      before as (select p.* from pictures p join found f on f.url = p.url),
      kept as (
        update pictures p set tries = f.tries, looked_at = now(),
            -- Somebody who has asked for another look meanwhile has not got it by this one.
            due_at = case when p.due_at = f.due then now() + make_interval(secs => f.wait) else p.due_at end,
            -- What could not be reached now is as it was when it was reached last.
            state = case when f.state = 'unreachable' and p.state <> 'waiting' then p.state else f.state end,
            status = case when f.state = 'unreachable' then p.status else f.status end,
            width = case when f.state = 'unreachable' then p.width else f.width end,
            height = case when f.state = 'unreachable' then p.height else f.height end,
            kind = case when f.state = 'unreachable' then p.kind else f.kind end,
            bytes = case when f.state = 'unreachable' then p.bytes else f.bytes end,
            on_white = case when f.state = 'unreachable' then p.on_white else f.on_white end,
            thumb = case when f.state = 'unreachable' then p.thumb else decode(f.thumb, 'base64') end
          from found f where f.url = p.url
          returning p.*)
      select k.url from kept k join before b on b.url = k.url
        where (k.state, k.status, k.width, k.height, k.kind, k.bytes, k.on_white)
          is distinct from (b.state, b.status, b.width, b.height, b.kind, b.bytes, b.on_white)`,
    [JSON.stringify(rows)],
  );
  // Most pictures are as they should be, and were: nothing is said of them, and nothing has to be judged anew.
  const terms = (await loadMarkets(tx)).map((m) => m.rulebook.pictures);
  const now = new Map(found.map((f) => [f.link, f.facts]));
  const isSpokenOf = (link: string): boolean =>
    [before?.get(link), now.get(link)].some(
      (facts) =>
        facts !== undefined &&
        facts.is !== 'unreachable' &&
        terms.some((t) => judgePicture(t, link, facts, true).length > 0),
    );
  const uses = await rowsOf<{ id: number }>(
    tx,
    'select distinct product_id as id from picture_uses where url = any(?) order by 1',
    [changed.map((c) => c.url).filter(isSpokenOf)],
  );
  await judgeAnew(tx, uses);
}

async function judgeAnew(tx: Db, products: readonly { id: number }[]): Promise<void> {
  for (let i = 0; i < products.length; i += productsAtOnce)
    await refreshProducts(
      tx,
      products.slice(i, i + productsAtOnce).map((p) => p.id),
      touchOfPictures,
    );
}

const forgottenAtOnce = 2000;
/**
 * Forgets some of what was found at hosts that are not asked any more, and judges anew the listings of which something is said
 * because of it. Answers false where nothing was left.
 */
export async function forgetSome(tx: Db): Promise<boolean> {
  const gone = await rowsOf<{ url: string }>(
    tx,
    `select url from pictures p
      where state <> 'waiting' and not exists (select 1 from picture_hosts h where h.host = p.host)
      order by url limit ? for update`,
    [forgottenAtOnce],
  );
  if (gone.length === 0) return false;
  const urls = gone.map((g) => g.url);
  await tx.raw(
    `update pictures set state = 'waiting', status = null, width = null, height = null, kind = null, bytes = null,
        on_white = null, thumb = null, looked_at = null, tries = 0, due_at = now()
      where url = any(?)`,
    [urls],
  );
  await judgeAnew(
    tx,
    await rowsOf<{ id: number }>(
      tx,
      `select distinct u.product_id as id from picture_uses u
        join listings l on l.product_id = u.product_id
        join findings f on f.listing_id = l.id and f."check" = ?
        where u.url = any(?) order by 1`,
      [pictureCheck, urls],
    ),
  );
  return true;
}
