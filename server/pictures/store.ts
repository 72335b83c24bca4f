// Keeping what was found behind links, and judging anew what shows them.
import { judgePicture, type PictureFacts } from '@basileus/core/pictures';
import { type Db, rowsOf } from '../database';
import { loadPictureFacts, refreshProducts, type Touch } from '../listings';
import { loadMarkets } from '../markets';

export interface Found {
  link: string;
  facts: PictureFacts | { is: 'unreachable' };
  thumb: Buffer | null;
}

/** Nothing of the products has changed but what is known of their pictures. */
export const touchOfPictures: Touch = { fields: new Set(['pictures']), formerGtins: [] };

const day = 86_400;
/** Seconds until a picture is looked at again: what is there rarely goes; what could not be reached is tried sooner, and less and less. */
const waitFor = ({ is }: Found['facts'], tries: number): number =>
  is === 'there' ? 30 * day : is === 'unreachable' ? Math.min(day, 300 * 2 ** Math.min(tries, 10)) : day;

/** Products whose listings are judged anew at a time. */
const productsAtOnce = 400;

/** Keeps what was found; the listings that show a picture of which something new is known are judged anew. */
export async function storeFound(tx: Db, found: readonly Found[], triesOf: (link: string) => number): Promise<void> {
  const rows = found.map(({ link, facts, thumb }) => ({
    url: link,
    state: facts.is,
    status: facts.is === 'missing' ? facts.status : null,
    ...(facts.is === 'there'
      ? { width: facts.width, height: facts.height, kind: facts.kind, bytes: facts.bytes, on_white: facts.isOnWhite }
      : { width: null, height: null, kind: null, bytes: null, on_white: null }),
    thumb: thumb?.toString('base64') ?? null,
    tries: facts.is === 'unreachable' ? triesOf(link) + 1 : 0,
    wait: waitFor(facts, triesOf(link)),
  }));
  // Before it is written: what was known until now.
  const before = await loadPictureFacts(
    tx,
    found.map((f) => f.link),
  );
  const changed = await rowsOf<{ url: string }>(
    tx,
    `with found as (
        select * from jsonb_to_recordset(?::jsonb) as f(url text, state text, status int, width int, height int, kind text,
          bytes int, on_white boolean, thumb text, tries int, wait int)),
      before as (select p.* from pictures p join found f on f.url = p.url for update of p),
      kept as (
        update pictures p set tries = f.tries, due_at = now() + make_interval(secs => f.wait), looked_at = now(),
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
  for (let i = 0; i < uses.length; i += productsAtOnce)
    await refreshProducts(
      tx,
      uses.slice(i, i + productsAtOnce).map((u) => u.id),
      touchOfPictures,
    );
}
