// What waits at each stop and what needs a person today, in order of money and urgency.
import { wordCause } from '@basileus/core/checks';
import { type Db, rowOf, rowsOf } from '../database';
import { loadPlan } from '../dispatches/plan';
import { stateSql } from '../listings/queries';
import { loadMarkets } from '../markets/load';

type Tone = 'bad' | 'warn' | 'note' | 'good';
interface Today {
  kind: string;
  title: string;
  detail: string;
  count: number;
  tone: Tone;
  link: string;
}

export async function loadOverview(db: Db, only: string) {
  const markets = (await loadMarkets(db)).filter((m) => only === '' || m.key === only);
  const ids = markets.map((m) => m.id);
  const [states, causes, answers, products, planned, undecided, refusedLines, failed, reviews, jobs] =
    await Promise.all([
      rowsOf<{ market_id: number; state: string; n: number }>(
        db,
        `select market_id, ${stateSql} as state, count(*) as n from listings l where market_id = any(?) group by 1, 2`,
        [ids],
      ),
      rowsOf<{ check: string; message: string; field: string; level: string; market_id: number; n: number }>(
        db,
        `select "check", message, field, min(level) as level, market_id, count(distinct listing_id) as n
          from findings
          where market_id = any(?) and level <> 'tip'
          group by 1, 2, 3, market_id
          order by min(level), n desc limit 8`,
        [ids],
      ),
      rowsOf<{ day: string; accepted: number; refused: number }>(
        db,
        `select to_char(answered_at, 'YYYY-MM-DD') as day, sum(accepted + remarked) as accepted, sum(refused) as refused
          from dispatches
          where answered_at is not null and market_id = any(?)
          group by 1
          order by 1 desc limit 14`,
        [ids],
      ),
      rowOf<{ n: number }>(db, 'select count(*) as n from products'),
      rowsOf<{ id: number; name: string; refuse: number }>(
        db,
        `select id, name, coalesce((counts ->> 'refuse')::int, 0) as refuse
          from imports
          where state = 'planned'
          order by id desc limit 5`,
      ),
      rowsOf<{ market_id: number; n: number }>(
        db,
        'select market_id, count(*) as n from listings where category is null and market_id = any(?) group by 1',
        [ids],
      ),
      rowsOf<{ id: number; market_id: number; n: number; mended: number }>(
        db,
        `select d.id, d.market_id, count(*) filter (where not x.mended) as n, count(*) filter (where x.mended) as mended
          from dispatches d
          join dispatch_lines x on x.dispatch_id = d.id
          where x.state = 'refused' and not x.resent and d.market_id = any(?)
          group by 1, 2
          order by 1 desc limit 10`,
        [ids],
      ),
      rowsOf<{ id: number; market_id: number; total: number; fault: string }>(
        db,
        `select id, market_id, total, coalesce(fault, '') as fault
          from dispatches
          where state = 'failed' and market_id = any(?)
          order by id desc limit 5`,
        [ids],
      ),
      rowsOf<{ market_id: number; n: number }>(
        db,
        `select market_id, count(*) as n
          from listings
          where market_state = 'refused' and number is not null and market_id = any(?)
          group by 1`,
        [ids],
      ),
      rowsOf<{ title: string; error: string; link: string | null }>(
        db,
        `select title, coalesce(error, '') as error, link
          from jobs
          where state = 'failed' and title <> '' and updated_at > now() - interval '1 day'
          order by updated_at desc limit 3`,
      ),
    ]);
  const nameOf = (id: number) => markets.find((m) => m.id === id)!;
  const plans = await Promise.all(markets.map((m) => loadPlan(db, m)));
  const of = (id: number) => Object.fromEntries(states.filter((s) => s.market_id === id).map((s) => [s.state, s.n]));
  const total = (state: string) => states.filter((s) => s.state === state).reduce((n, s) => n + s.n, 0);
  const plural = (n: number, one: string, many: string) => `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`;
  const today: Today[] = [];
  for (const f of failed) {
    const m = nameOf(f.market_id);
    today.push({
      kind: 'failed',
      title: `A dispatch to ${m.name} failed`,
      detail: f.fault,
      count: f.total,
      tone: 'bad',
      link: `/${m.key}/settle/${f.id}`,
    });
  }
  for (const r of refusedLines) {
    const m = nameOf(r.market_id);
    if (r.n > 0)
      today.push({
        kind: 'refused',
        title: `${m.name} refused ${plural(r.n, 'line', 'lines')}`,
        detail: 'Mend them where they stand and send them again.',
        count: r.n,
        tone: 'bad',
        link: `/${m.key}/settle/${r.id}?show=refused`,
      });
    if (r.mended > 0)
      today.push({
        kind: 'mended',
        title: `${plural(r.mended, 'mended line waits', 'mended lines wait')} to go to ${m.name} again`,
        detail: 'Send the mended lines alone.',
        count: r.mended,
        tone: 'warn',
        link: `/${m.key}/settle/${r.id}?show=refused`,
      });
  }
  for (const r of reviews) {
    const m = nameOf(r.market_id);
    today.push({
      kind: 'review',
      title: `${m.name} turned ${plural(r.n, 'entry', 'entries')} back after review`,
      detail: 'Read why and mend.',
      count: r.n,
      tone: 'bad',
      link: `/${m.key}/settle?state=refused`,
    });
  }
  plans.forEach((p, i) => {
    const m = markets[i]!;
    const held = p.held.find((h) => h.reason === 'price-moved');
    if (held)
      today.push({
        kind: 'held',
        title: `${plural(held.count, 'price is', 'prices are')} held for a look on ${m.name}`,
        detail: 'A price that moves further than usual waits: let it go, or correct it.',
        count: held.count,
        tone: 'warn',
        link: `/${m.key}/send?operation=price&held=yes`,
      });
  });
  for (const c of causes.filter((c) => c.level === 'blocker' && c.check !== 'category-missing').slice(0, 4)) {
    const m = nameOf(c.market_id);
    today.push({
      kind: 'blocker',
      title: `${plural(c.n, 'listing is', 'listings are')} blocked: ${wordCause(c, { market: m.name, labelOf: m.labelOf })}`,
      detail: `On ${m.name}; one mend may settle all of them.`,
      count: c.n,
      tone: 'warn',
      link: `/${m.key}/check?cause=${c.check}.${c.message}.${c.field}`,
    });
  }
  for (const u of undecided) {
    const m = nameOf(u.market_id);
    today.push({
      kind: 'category',
      title: `${plural(u.n, 'item has', 'items have')} no category on ${m.name}`,
      detail: 'Proposals are ready; take or change them.',
      count: u.n,
      tone: 'warn',
      link: `/${m.key}/prepare?view=categories`,
    });
  }
  for (const p of planned)
    today.push({
      kind: 'import',
      title: `The import “${p.name}” waits for your decision`,
      detail: p.refuse ? `${plural(p.refuse, 'row', 'rows')} would be refused.` : 'Nothing has been written yet.',
      count: 1,
      tone: 'note',
      link: `/all/gather/imports/${p.id}`,
    });
  plans.forEach((p, i) => {
    const m = markets[i]!;
    const n = p.operations.reduce((s, o) => s + o.count, 0);
    if (n)
      today.push({
        kind: 'send',
        title: `${plural(n, 'row is', 'rows are')} ready to go to ${m.name}`,
        detail: p.operations
          .filter((o) => o.count)
          .map((o) => `${o.count} ${o.operation}`)
          .join(', '),
        count: n,
        tone: 'good',
        link: `/${m.key}/send`,
      });
  });
  for (const j of jobs)
    today.push({
      kind: 'job',
      title: `${j.title} failed`,
      detail: j.error,
      count: 1,
      tone: 'bad',
      link: j.link ?? '/',
    });
  return {
    stops: {
      gather: planned.length,
      prepare: undecided.reduce((n, u) => n + u.n, 0),
      check: total('blocked'),
      send: plans.reduce((n, p) => n + p.operations.reduce((s, o) => s + o.count, 0), 0),
      settle: refusedLines.reduce((n, r) => n + r.n + r.mended, 0) + failed.length,
    },
    products: products?.n ?? 0,
    states: Object.fromEntries([...new Set(states.map((s) => s.state))].map((s) => [s, total(s)])),
    today,
    readiness: markets.map((m) => ({ market: m.key, name: m.name, states: of(m.id) })),
    causes: causes.map((c) => {
      const m = nameOf(c.market_id);
      return { title: wordCause(c, { market: m.name, labelOf: m.labelOf }), level: c.level, count: c.n };
    }),
    answers: answers.reverse(),
  };
}
